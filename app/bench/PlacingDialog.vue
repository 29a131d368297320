<script setup lang="ts">
import { noteLabel } from '~~/core/audio/notes'
import { padLabel } from '~~/core/kit/padLabel'
import { groupBy } from '~~/core/groupBy'
import { PADS_PER_BANK, type Pad } from '~~/core/kit/document'
import { equalRanges } from '~~/core/kit/ranges'
import type { SoundRow } from '~~/contract/library'
import type { LedgerColumn } from '../parts/LedgerTable.vue'
import { counted } from '../parts/useFormat'
import { say, saying } from '../parts/useSay'
import { useKit } from './kit'
import { useLibrary } from '../library'
import { usePlacing } from './placing'
import { useSettings } from '../parts/settings'

const MOST_GAP = 12

/** Chooses how several sounds go onto pads, and shows what becomes of the kit before it does: beside the kit sheet, which shows the same. */
const placing = usePlacing()
const kit = useKit()
const library = useLibrary()
const settings = useSettings()
const ways = useTemplateRef<{ $el: HTMLElement }>('ways')

const pad = computed(() => padLabel(kit.padIndex))
const WAYS = computed(() => [
  { way: 'in order', does: 'In order, on consecutive notes' },
  { way: 'by kind', does: 'By kind, on free pads of the standard percussion keys' },
  { way: 'low first', does: 'By pitch, low ones first' },
  { way: 'high first', does: 'By pitch, high ones first' },
  { way: 'stated note', does: 'By the root note in each file' },
  { way: 'measured note', does: 'By measured pitch, on the nearest note' },
  { way: 'velocity layers', does: `Velocity layers on pad ${pad.value}, soft to loud` },
  { way: 'round robin', does: `Round robin on pad ${pad.value}` },
  { way: 'stack', does: `Stacked on pad ${pad.value}` },
  { way: 'alternates', does: `Alternates on pad ${pad.value}` },
] as const)
const canAdd = computed(() => placing.way.type !== 'by kind')
const hasStart = computed(() => placing.way.type === 'in order' || placing.way.type === 'by pitch')

const COLUMNS: readonly LedgerColumn[] = [
  { key: 'pad', title: 'Pad', width: 46 },
  { key: 'note', title: 'Note', width: 88 },
  { key: 'sound', title: 'Sound', width: 130, grows: true },
  { key: 'velocity', title: 'Velocity', width: 76, align: 'right' },
]
const INSTEAD: LedgerColumn = { key: 'instead', title: 'In place of', width: 110, grows: true }
const columns = computed(() => placing.preview.replaced.length > 0 ? [...COLUMNS, INSTEAD] : COLUMNS)

const ranges = (target: Pad) => equalRanges(target.layers.length)
const lines = computed(() => {
  const { kit: next, placed, replaced } = placing.preview
  return placed.map(({ sound, padIndex }, i) => {
    const target = next.pads[padIndex]!
    const layer = target.layers.find(candidate => candidate.sound.id === sound.sound.id)
    return {
      id: i, pad: padLabel(padIndex), note: noteLabel(target.note, settings.middleC), sound: sound.sound.name, kind: sound.kind,
      velocity: target.alternate !== null ? `${(ranges(target)[target.layers.indexOf(layer!)] ?? { low: 0 }).low} up` : layer ? `${layer.lowVelocity}–${layer.highVelocity}${layer.turn === null ? '' : ` · ${layer.turn}`}` : '', instead: replaced.includes(padIndex) ? kit.kit.pads[padIndex]!.layers.map(held => held.sound.name).join(', ') : '',
    }
  })
})

/** Goes through the lines; the kit sheet shows their pads. */
function lookOn(event: KeyboardEvent): void {
  const step = { ArrowUp: -1, ArrowDown: 1, PageUp: -PADS_PER_BANK, PageDown: PADS_PER_BANK, Home: -Infinity, End: Infinity }[event.key]
  if (step === undefined) return
  placing.look(placing.line + step)
  event.preventDefault()
}
const pads = computed(() => new Set(placing.preview.placed.map(({ padIndex }) => padIndex)).size)
const reasons = computed(() => [...groupBy(placing.preview.notPlaced, ({ why }) => why)].map(([why, sounds]) => ({ why, count: sounds.length })))

function set(change: Partial<typeof settings.placing>): void {
  settings.placing = { ...settings.placing, ...change }
}

/** Enter on a choice puts them there; in a field it ends what is typed. */
function enter(event: KeyboardEvent): void {
  const { type } = event.target as HTMLInputElement
  if ((type === 'radio' || type === 'checkbox') && lines.value.length > 0) placing.carryOut()
}

const hasFamilies = computed(() => 'families' in placing.way)
/** The name of the pack that they lie in, where they share one. */
const pack = computed(() => {
  const isIn = (row: SoundRow, source: number) => row.folders.some(folder => Number(folder.split('/')[0]) === source)
  return library.sources.find(source => placing.rows.every(row => isIn(row, source.id)))?.name ?? kit.kit.name
})

async function makeSet(): Promise<void> {
  const made = await saying(() => placing.makeSet(pack.value))
  if (made) say(`${counted(made, 'kit')} made, one for each kind, under "Open kits".`)
}
</script>

<template>
  <el-dialog v-model="placing.isOpen" :title="`Put ${counted(placing.rows.length, 'sound')} on pads`" width="470" class="placing-panel" modal-class="placing-mask" top="20px" append-to-body destroy-on-close @opened="ways?.$el.querySelector('input')?.focus()">
    <div class="placing" @keydown.enter="enter">
      <div class="how">
        <el-radio-group ref="ways" :model-value="settings.placing.way" aria-label="Placing method" @change="set({ way: $event as typeof settings.placing.way })">
          <el-radio v-for="{ way, does } in WAYS" :key="way" :value="way">
            {{ does }}
          </el-radio>
        </el-radio-group>
        <el-radio-group v-if="canAdd" :model-value="settings.placing.adds" size="small" class="side-by-side" aria-label="What pads hold already" @change="set({ adds: Boolean($event) })">
          <el-radio :value="false">
            Replace what pads hold
          </el-radio>
          <el-radio :value="true">
            Add to it
          </el-radio>
        </el-radio-group>
        <label v-if="hasStart"><span>First note <span class="figure quiet">{{ noteLabel(placing.startNote, settings.middleC) }}</span></span>
          <NoteField v-model="placing.startNote" label="First note" />
        </label>
        <label v-if="placing.way.type === 'in order'"><span>Free notes between families and kinds</span>
          <el-input-number :model-value="settings.placing.gap" :min="0" :max="MOST_GAP" size="small" aria-label="Free notes between families and kinds" @update:model-value="set({ gap: $event ?? 0 })" />
        </label>
        <label v-if="hasStart && !settings.placing.adds" class="check"><el-checkbox :model-value="settings.placing.skipsTaken" aria-label="Skip notes in use" @change="set({ skipsTaken: Boolean($event) })" /><span>Skip notes in use</span></label>
        <label v-if="hasFamilies" class="check"><el-checkbox :model-value="settings.placing.families" aria-label="Strokes and takes of one instrument share a pad" @change="set({ families: Boolean($event) })" /><span>Strokes and takes of one instrument share a pad, as layers and round robins</span></label>
        <label v-if="placing.way.type === 'velocity layers'" class="check"><el-checkbox :model-value="settings.placing.byLevel" aria-label="Ranges by measured level" @change="set({ byLevel: Boolean($event) })" /><span>Velocity ranges by measured level instead of equal ones</span></label>
        <label class="check"><el-checkbox :model-value="settings.placing.skips" aria-label="Do the same next time without asking" @change="set({ skips: Boolean($event) })" /><span>Do the same next time without asking, unless pads are replaced (<kbd>Shift P</kbd> still asks)</span></label>
        <el-button size="small" class="set" @click="makeSet">
          Create a kit for each kind instead
        </el-button>
      </div>
      <div class="preview">
        <p role="status" aria-label="Preview of the kit">
          <span class="figure">{{ counted(lines.length, 'sound') }}</span> on <span class="figure">{{ counted(pads, 'pad') }}</span><span v-if="placing.preview.replaced.length > 0" class="look"> · {{ counted(placing.preview.replaced.length, 'pad') }} with other sounds {{ placing.preview.replaced.length === 1 ? 'is' : 'are' }} replaced</span>
          <span v-for="one in placing.beyond.slice(0, 3)" :key="one.what" class="look block">{{ one.what }} {{ one.next }}</span>
          <span v-if="placing.beyond.length > 3" class="look block">And {{ placing.beyond.length - 3 }} more beyond the target.</span>
          <span v-for="{ why, count } in reasons" :key="why" class="look block">{{ counted(count, 'sound') }} not placed. {{ why }}</span>
        </p>
        <LedgerTable label="Where each sound goes" :columns="columns" :total="lines.length" :row-at="index => lines[index]" :cursor="Math.min(placing.line, lines.length - 1)" @press="placing.look" @keydown="lookOn">
          <template #cell="{ column, row }">
            <span v-if="column === 'sound'" class="sound"><KindStamp :kind="row.kind" /><span class="cut" :title="row.sound">{{ row.sound }}</span></span>
            <span v-else-if="column === 'instead'" class="cut look" :title="row.instead">{{ row.instead }}</span>
            <span v-else class="figure">{{ column === 'pad' ? row.pad : column === 'note' ? row.note : row.velocity }}</span>
          </template>
        </LedgerTable>
      </div>
    </div>
    <template #footer>
      <el-button @click="placing.isOpen = false">
        Cancel
      </el-button>
      <el-button type="primary" :disabled="lines.length === 0" @click="placing.carryOut()">
        Put {{ counted(lines.length, 'sound') }} on {{ counted(pads, 'pad') }}
      </el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.placing { display: flex; flex-direction: column; gap: 10px; height: calc(100vh - 172px); max-height: 780px; }
.how { display: flex; flex-direction: column; gap: 6px; flex: none; }
.how :deep(.el-radio-group) { display: flex; flex-direction: column; align-items: flex-start; }
.how .side-by-side { flex-direction: row; gap: 14px; }
.how :deep(.el-radio) { height: 24px; margin: 0; white-space: normal; }
.how .set { align-self: flex-start; }
.how :deep(.el-checkbox) { height: 22px; }
.how label.check { justify-content: flex-start; line-height: 1.25; font-size: 12px; }
.how label { display: flex; justify-content: space-between; align-items: center; gap: 8px; }
.preview { display: flex; flex: 1; flex-direction: column; min-width: 0; min-height: 0; border: 1px solid var(--rule); }
.preview p { margin: 0; padding: 6px 8px; border-bottom: 1px solid var(--rule); }
.block { display: block; }
.sound { display: flex; align-items: center; gap: 6px; min-width: 0; }
</style>

<style>
/* The sheet, of which it is about, stays in sight. */
.placing-mask { background: transparent; }
.placing-panel.el-dialog { margin-right: 12px; }
</style>
