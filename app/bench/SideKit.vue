<script setup lang="ts">
import { noteLabel } from '~~/core/audio/notes'
import { padLabel } from '~~/core/kit/padLabel'
import { listed } from '~~/core/wording'
import { counted } from '../parts/useFormat'
import { onceReleased } from '../parts/useRelease'
import { saying } from '../parts/useSay'
import { useKit } from './kit'
import { useSettings } from '../parts/settings'
import { useSideKit, type SideSource } from './sideKit'
import { useVault } from '../vault'

/** A second kit beside this one: its pads are played, chosen and copied across. */
const kit = useKit()
const side = useSideKit()
const vault = useVault()
const settings = useSettings()
const kits = shallowRef<Awaited<ReturnType<typeof kit.list>>>([])
const list = useTemplateRef<HTMLElement>('list')

onMounted(async () => {
  kits.value = await saying(kit.list) ?? []
})
onUnmounted(() => side.close())

const value = computed(() => side.source ? `${side.source.type}:${side.source.id}` : '')
const choices = computed(() => [
  { value: 'kits', label: 'Open kits', options: kits.value.filter(one => one.id !== kit.id).map(one => ({ value: `kit:${one.id}`, label: one.label })) },
  { value: 'presets', label: 'Stored presets', options: (vault.vault?.presets ?? []).filter(preset => preset.type !== 'blueprint').map(preset => ({ value: `preset:${preset.id}`, label: preset.name })) },
])

function choose(text: string): void {
  const at = text.indexOf(':')
  void saying(() => side.open({ type: text.slice(0, at), id: text.slice(at + 1) } as SideSource))
}

function press(index: number, event: PointerEvent): void {
  if (event.button !== 0) return
  side.select(index, event.shiftKey ? 'extend' : event.ctrlKey || event.metaKey ? 'toggle' : 'alone')
  side.play(index, settings.playing.velocity)
  onceReleased(() => side.play(index, 0))
}

function keydown(event: KeyboardEvent): void {
  const way = { ArrowDown: 1, ArrowUp: -1, ArrowRight: 1, ArrowLeft: -1 }[event.key]
  const at = side.filled.indexOf(side.cursor)
  const act = way !== undefined
    ? () => {
        const next = side.filled[Math.max(0, Math.min(side.filled.length - 1, at + way))]
        if (next === undefined) return
        side.select(next, event.shiftKey ? 'extend' : 'alone')
        side.play(next, settings.playing.velocity)
        list.value?.querySelector(`[data-index="${next}"]`)?.scrollIntoView({ block: 'nearest' })
      }
    : { ' ': () => side.play(side.cursor, settings.playing.velocity), 'Enter': () => side.copy() }[event.key]
  const all = (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'a' ? side.selectAll : undefined
  if (!all && (!act || event.ctrlKey || event.metaKey)) return
  event.preventDefault()
  event.stopPropagation()
  if (all) all()
  else act?.()
}

/** What copying would do, before it does. */
const outcome = computed(() => {
  const shown = side.preview
  if (!shown) return undefined
  const [first, last] = [shown.padIndexes[0], shown.padIndexes.at(-1)]
  const where = first === undefined ? 'no pad' : first === last ? padLabel(first) : `${padLabel(first)} to ${padLabel(last!)}`
  return { where, replaced: shown.replaced.map(padLabel), leftOver: shown.leftOver }
})
</script>

<template>
  <div class="side">
    <div class="tools">
      <el-select-v2 size="small" :model-value="value" :options="choices" filterable placeholder="Open a side kit" class="choose" aria-label="Side kit to show" @change="choose" />
      <el-select v-model="side.place" size="small" class="place" aria-label="Copy to">
        <el-option value="free" label="on free pads" /><el-option value="over" label="replacing pads" />
      </el-select>
      <el-button size="small" type="primary" :disabled="!outcome" @click="side.copy()">
        Copy {{ counted(side.selected.length, 'pad') }} to {{ outcome?.where ?? padLabel(kit.padIndex) }}
      </el-button>
      <span v-if="outcome && outcome.replaced.length > 0" class="look" role="status">replaces {{ listed(outcome.replaced, 4) }}</span>
      <span v-if="outcome && outcome.leftOver > 0" class="look" role="status">{{ counted(outcome.leftOver, 'pad') }} that do not fit</span>
      <span class="quiet">{{ side.side ? `${counted(side.filled.length, 'pad')} with sounds. Enter copies, Shift ↓ selects several, Ctrl A all.` : 'Sounds are included. The side kit is not changed.' }}</span>
    </div>
    <div v-if="side.side" ref="list" class="pads" role="listbox" aria-multiselectable="true" tabindex="0" :aria-label="`Pads of ${side.side.name}`" @keydown="keydown">
      <div
        v-for="index in side.filled"
        :key="index"
        class="pad"
        role="option"
        :data-index="index"
        :aria-selected="index === side.cursor || side.chosen.has(index)"
        :class="{ 'at-hand': index === side.cursor, 'chosen': side.chosen.has(index) }"
        @pointerdown="press(index, $event)"
      >
        <span class="figure quiet">{{ padLabel(index) }}</span><KindStamp :kind="side.side.pads[index]!.role" /><span class="cut" :title="side.side.pads[index]!.name">{{ side.side.pads[index]!.name }}</span><span class="figure quiet">{{ noteLabel(side.side.pads[index]!.note, settings.middleC) }}</span>
      </div>
    </div>
  </div>
</template>

<style scoped>
.side { display: flex; flex-direction: column; flex: 1; min-height: 0; }
.tools { display: flex; align-items: center; gap: 8px; padding: 5px 12px; font-size: 12px; }
.choose { flex: 1; min-width: 160px; }
.place { flex: none; width: 170px; }
.pads { flex: 1; min-height: 0; overflow-y: auto; display: grid; grid-template-columns: repeat(auto-fill, minmax(190px, 1fr)); align-content: start; gap: 0 12px; padding: 0 12px 6px; }
.pad { display: grid; grid-template-columns: 28px 18px minmax(0, 1fr) auto; align-items: center; gap: 5px; height: 26px; border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent); font-size: 12px; cursor: default; user-select: none; }
.chosen { background: var(--chosen); }
.at-hand { background: var(--at-hand); box-shadow: inset 3px 0 0 var(--accent); }
</style>
