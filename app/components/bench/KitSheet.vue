<script setup lang="ts">
import { PADS_PER_BANK, type Pad } from '~~/core/kit/document'
import { noteLabel } from '~~/core/audio/notes'
import { padLabel } from '~~/core/kit/padLabel'
import { carriesSounds, droppedSounds } from '../../audio/dragged'
import { decibels } from '../../composables/useFormat'
import { saying } from '../../composables/useSay'
import { PAD_LETTERS } from '../../composables/usePadKeys'
import type { WaveformPicture } from '../../composables/useWaveformPainter'
import { useKit } from '../../stores/kit'
import { useSettings } from '../../stores/settings'

/** The kit as ruled rows, one a pad, of the bank at hand. */
const kit = useKit()
const settings = useSettings()
const over = ref<number>()
const sheet = useTemplateRef<HTMLElement>('sheet')
const PRESS_VELOCITY = 100
defineExpose({ focus: () => sheet.value?.focus() })

const rows = computed(() => Array.from({ length: PADS_PER_BANK }, (_, i) => {
  const index = kit.bank * PADS_PER_BANK + i
  const pad = kit.kit.pads[index]!
  return { index, letter: PAD_LETTERS[i]!, pad, picture: picture(pad), missing: missing(pad) }
}))

function picture(pad: Pad): WaveformPicture | null {
  const layer = pad.layers[0]
  const outline = layer && kit.sounds.get(layer.sound.id)?.outline
  if (!layer || !outline) return null
  return { outline, start: layer.startFrame / layer.sound.frames, end: layer.endFrame / layer.sound.frames, reverse: layer.reverse }
}

function missing(pad: Pad): string | undefined {
  const state = pad.layers[0] && kit.sounds.get(pad.layers[0].sound.id)?.state
  return typeof state === 'object' ? state.missing : undefined
}

function press(index: number, event: PointerEvent): void {
  if (event.button !== 0) return
  const how = event.shiftKey ? 'extend' : event.ctrlKey || event.metaKey ? 'toggle' : 'alone'
  kit.select(index, how)
  if (how !== 'alone') return
  kit.playPad(index, PRESS_VELOCITY)
  window.addEventListener('pointerup', () => kit.playPad(index, 0), { once: true })
}

function dragOver(index: number, event: DragEvent): void {
  if (!carriesSounds(event)) return
  event.preventDefault()
  over.value = index
}

function drop(index: number, event: DragEvent): void {
  over.value = undefined
  void saying(async () => kit.place(index, await droppedSounds(event)))
}

function signed(value: number): string {
  return value > 0 ? `+${value}` : String(value)
}

function panText(pan: number): string {
  if (pan === 0) return 'C'
  return `${pan < 0 ? 'L' : 'R'} ${Math.round(Math.abs(pan) * 100)}`
}
</script>

<template>
  <div ref="sheet" class="sheet" role="grid" aria-label="Kit sheet" tabindex="0" :aria-activedescendant="`pad-${kit.padIndex}`">
    <div class="head" role="row">
      <span role="columnheader">Pad</span><span role="columnheader">Note</span><span role="columnheader">Sound</span><span role="columnheader">Waveform</span>
      <span role="columnheader" class="right">Gain</span><span role="columnheader" class="right">Pan</span><span role="columnheader" class="right">Tune</span>
      <span role="columnheader">Plays</span><span role="columnheader" class="right">Choke</span>
    </div>
    <div
      v-for="{ index, letter, pad, picture: drawn, missing: reason } in rows"
      :id="`pad-${index}`"
      :key="index"
      class="row"
      role="row"
      :aria-selected="index === kit.padIndex || kit.chosenPads.has(index)"
      :class="{ 'at-hand': index === kit.padIndex, 'chosen': kit.chosenPads.has(index), 'over': over === index, 'lit': kit.lit.has(index) }"
      @pointerdown="press(index, $event)"
      @dragover="dragOver(index, $event)"
      @dragleave="over = undefined"
      @drop.prevent="drop(index, $event)"
    >
      <span role="gridcell" class="pad-cell"><span class="figure">{{ padLabel(index) }}</span><kbd>{{ letter }}</kbd></span>
      <span role="gridcell" class="figure">{{ noteLabel(pad.note, settings.middleC) }}</span>
      <span role="gridcell" class="name"><KindStamp v-if="pad.layers.length > 0 || pad.role" :kind="pad.role" /><span class="cut" :title="reason ?? pad.name" :class="{ quiet: pad.layers.length === 0, lost: reason }">{{ pad.layers.length > 0 ? pad.name : 'empty' }}<template v-if="reason"> · file missing</template></span></span>
      <span role="gridcell" class="wave"><WaveForm v-if="drawn" :picture="drawn" :label="`Waveform of ${pad.name}`" /></span>
      <template v-if="pad.layers.length > 0">
        <span role="gridcell" class="figure right">{{ decibels(pad.gainDb) }}</span>
        <span role="gridcell" class="figure right">{{ panText(pad.pan) }}</span>
        <span role="gridcell" class="figure right">{{ signed(pad.tuneCents) }} ct</span>
        <span role="gridcell" class="cut">{{ pad.play }}<template v-if="pad.layers[0]?.reverse">, reverse</template></span>
        <span role="gridcell" class="figure right">{{ pad.chokeGroup ?? '–' }}</span>
      </template>
    </div>
  </div>
</template>

<style scoped>
.sheet { flex: 1; min-height: 0; overflow: auto; }
.head, .row { display: grid; grid-template-columns: 52px 68px minmax(120px, 3fr) minmax(48px, 1fr) 60px 38px 56px 68px 40px; align-items: center; gap: 0 6px; padding: 0 10px; }
.head { position: sticky; top: 0; z-index: 1; height: var(--row); background: var(--paper); border-bottom: 1px solid var(--rule); color: var(--quiet); font-size: 12px; }
.row { height: var(--row); border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent); cursor: default; user-select: none; }
.right { text-align: right; }
.pad-cell { display: flex; justify-content: space-between; }
.name { display: flex; align-items: center; gap: 6px; min-width: 0; }
.wave { height: 22px; }
.chosen { background: var(--chosen); }
.at-hand { background: var(--at-hand); box-shadow: inset 3px 0 0 var(--accent); }
.over { box-shadow: inset 0 0 0 2px var(--look); }
.lit .figure { color: var(--accent); font-weight: 600; }
</style>
