<script setup lang="ts">
import { noteLabel } from '~~/core/audio/notes'
import { padLabel } from '~~/core/kit/padLabel'
import { groupBy } from '~~/core/groupBy'
import type { LedgerColumn } from '../common/LedgerTable.vue'
import { counted } from '../../composables/useFormat'
import { useKit } from '../../stores/kit'
import { usePlacing } from '../../stores/placing'
import { useSettings } from '../../stores/settings'

const MOST_GAP = 12

/** Chooses how several sounds go onto pads, and shows what becomes of the kit before it does. */
const placing = usePlacing()
const kit = useKit()
const settings = useSettings()
const ways = useTemplateRef<{ $el: HTMLElement }>('ways')

const pad = computed(() => padLabel(kit.padIndex))
const WAYS = computed(() => [
  { way: 'in order', does: 'In order, on notes that follow one another' },
  { way: 'by kind', does: 'By kind, on free pads of the standard percussion keys' },
  { way: 'low first', does: 'By pitch, low ones first' },
  { way: 'high first', does: 'By pitch, high ones first' },
  { way: 'stated note', does: 'Each on the note that its file states' },
  { way: 'velocity layers', does: `All on pad ${pad.value}, from soft to loud over velocity` },
  { way: 'stack', does: `All on pad ${pad.value}, at once` },
] as const)
const hasStart = computed(() => placing.way.type === 'in order' || placing.way.type === 'by pitch')

const COLUMNS: readonly LedgerColumn[] = [
  { key: 'pad', title: 'Pad', width: 46 },
  { key: 'note', title: 'Note', width: 88 },
  { key: 'sound', title: 'Sound', width: 150, grows: true },
  { key: 'velocity', title: 'Velocity', width: 76, align: 'right' },
]
const INSTEAD: LedgerColumn = { key: 'instead', title: 'In place of', width: 110, grows: true }
const columns = computed(() => placing.preview.replaced.length > 0 ? [...COLUMNS, INSTEAD] : COLUMNS)

const lines = computed(() => {
  const { kit: next, placed, replaced } = placing.preview
  return placed.map(({ sound, padIndex }, i) => {
    const target = next.pads[padIndex]!
    const layer = target.layers.find(candidate => candidate.sound.id === sound.sound.id)
    return {
      id: i, pad: padLabel(padIndex), note: noteLabel(target.note, settings.middleC), sound: sound.sound.name, kind: sound.kind,
      velocity: layer ? `${layer.lowVelocity}–${layer.highVelocity}` : '', instead: replaced.includes(padIndex) ? kit.kit.pads[padIndex]!.layers.map(held => held.sound.name).join(', ') : '',
    }
  })
})
const pads = computed(() => new Set(placing.preview.placed.map(({ padIndex }) => padIndex)).size)
const reasons = computed(() => [...groupBy(placing.preview.notPlaced, ({ why }) => why)].map(([why, sounds]) => ({ why, count: sounds.length })))

function choose(way: unknown): void {
  settings.placing = { ...settings.placing, way: way as typeof settings.placing.way }
}
</script>

<template>
  <el-dialog v-model="placing.isOpen" :title="`Put ${counted(placing.rows.length, 'sound')} on pads`" width="860" append-to-body destroy-on-close @opened="ways?.$el.querySelector('input')?.focus()">
    <div class="placing">
      <div class="how">
        <el-radio-group ref="ways" :model-value="settings.placing.way" aria-label="How they go onto pads" @change="choose">
          <el-radio v-for="{ way, does } in WAYS" :key="way" :value="way">
            {{ does }}
          </el-radio>
        </el-radio-group>
        <label v-if="hasStart"><span>First note <span class="figure quiet">{{ noteLabel(placing.startNote, settings.middleC) }}</span></span>
          <el-input-number v-model="placing.startNote" :min="0" :max="127" size="small" aria-label="First note" />
        </label>
        <label v-if="placing.way.type === 'in order'"><span>Free notes between families and kinds</span>
          <el-input-number :model-value="settings.placing.gap" :min="0" :max="MOST_GAP" size="small" aria-label="Free notes between families and kinds" @update:model-value="gap => settings.placing = { ...settings.placing, gap: gap ?? 0 }" />
        </label>
      </div>
      <div class="preview">
        <p role="status" aria-label="What becomes of the kit">
          <span class="figure">{{ counted(lines.length, 'sound') }}</span> on <span class="figure">{{ counted(pads, 'pad') }}</span><span v-if="placing.preview.replaced.length > 0" class="look"> · {{ counted(placing.preview.replaced.length, 'pad') }} with other sounds {{ placing.preview.replaced.length === 1 ? 'is' : 'are' }} replaced</span>
          <span v-for="{ why, count } in reasons" :key="why" class="look block">{{ counted(count, 'sound') }} {{ count === 1 ? 'stays' : 'stay' }} away. {{ why }}</span>
        </p>
        <LedgerTable label="Where each sound goes" :columns="columns" :total="lines.length" :row-at="index => lines[index]" :cursor="-1">
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
        Leave the kit as it is
      </el-button>
      <el-button type="primary" :disabled="lines.length === 0" @click="placing.carryOut()">
        Put {{ counted(lines.length, 'sound') }} on {{ counted(pads, 'pad') }}
      </el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.placing { display: flex; gap: 18px; height: 380px; }
.how { display: flex; flex-direction: column; gap: 10px; width: 310px; flex: none; }
.how :deep(.el-radio-group) { display: flex; flex-direction: column; align-items: flex-start; }
.how :deep(.el-radio) { height: auto; min-height: 28px; margin: 0; white-space: normal; }
.how label { display: flex; justify-content: space-between; align-items: center; gap: 8px; }
.preview { display: flex; flex: 1; flex-direction: column; min-width: 0; border: 1px solid var(--rule); }
.preview p { margin: 0; padding: 6px 8px; border-bottom: 1px solid var(--rule); }
.block { display: block; }
.sound { display: flex; align-items: center; gap: 6px; min-width: 0; }
</style>
