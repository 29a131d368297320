<script setup lang="ts">
import type { Pad } from '~~/core/kit/document'
import { noteLabel, noteName } from '~~/core/audio/notes'
import { padLabel } from '~~/core/kit/padLabel'
import type { WaveformPicture } from '../parts/useWaveformPainter'
import { PAD_STATES, type PadState } from './padStates'
import { useSettings } from '../parts/settings'

/** The cells of a pad's row: made anew only where something of that pad changes, so that an edit of one leaves the others. */
const props = defineProps<{
  index: number
  letter: string
  pad: Pad
  picture: WaveformPicture | null
  missing: string | undefined
  peakDb: number | undefined
  hitLufs: number | undefined
  output: string
}>()
defineEmits<{ toggle: [state: PadState], drag: [event: DragEvent] }>()
const settings = useSettings()

const label = computed(() => padLabel(props.index))
const noteText = computed(() => {
  const { range, note } = props.pad
  return range ? `${range.low}–${range.high} · ${noteName(range.low, settings.middleC)}–${noteName(range.high, settings.middleC)}` : noteLabel(note, settings.middleC)
})
const levelTitle = computed(() => props.peakDb === undefined ? 'Not measured yet' : `Peak ${props.peakDb.toFixed(1)} dBFS${props.peakDb > 0 ? ': over full scale' : ''}`)

function panText(pan: number): string {
  if (pan === 0) return 'C'
  return `${pan < 0 ? 'L' : 'R'}${Math.round(Math.abs(pan) * 100)}`
}
</script>

<template>
  <span role="gridcell" class="pad-cell"><span class="figure">{{ label }}</span><kbd>{{ letter }}</kbd></span>
  <span role="gridcell" class="states">
    <button v-for="state in PAD_STATES" :key="state.key" type="button" tabindex="-1" class="state" :class="{ on: pad[state.key] }" :aria-pressed="pad[state.key]" :title="`${pad[state.key] ? state.off : state.on} ${label}`" :aria-label="`${pad[state.key] ? state.off : state.on} ${label}`" @pointerdown.stop @click="$emit('toggle', state)">
      {{ state.letter }}
    </button>
  </span>
  <span role="gridcell" class="figure cut" :title="noteText">{{ noteText }}</span>
  <span role="gridcell" class="name"><KindStamp v-if="pad.layers.length > 0 || pad.role" :kind="pad.role" /><span class="cut" :draggable="pad.layers.length > 0 && !missing" :title="missing ?? pad.name" :class="{ quiet: pad.layers.length === 0, lost: missing }" @dragstart="$emit('drag', $event)">{{ pad.layers.length > 0 ? pad.name : 'empty' }}<template v-if="missing"> · file missing</template></span></span>
  <span role="gridcell" class="wave"><WaveForm v-if="picture" :picture="picture" :label="`Waveform of ${pad.name}`" /></span>
  <template v-if="pad.layers.length > 0">
    <span role="gridcell"><LayerStrip :pad="pad" /></span>
    <span role="gridcell" class="figure right">{{ pad.gainDb.toFixed(1) }}</span>
    <span role="gridcell" class="figure right" :class="{ look: peakDb !== undefined && peakDb > 0 }" :title="levelTitle">{{ hitLufs === undefined ? '' : hitLufs.toFixed(1) }}</span>
    <span role="gridcell" class="figure right">{{ panText(pad.pan) }}</span>
    <span role="gridcell" class="figure right">{{ pad.chokeGroup ?? '–' }}</span>
    <span role="gridcell" class="cut" :title="output">{{ output }}</span>
  </template>
</template>

<style scoped>
.right { text-align: right; }
.pad-cell { display: flex; justify-content: space-between; }
.states { display: flex; }
.state { width: 24px; height: 24px; padding: 0; border: 1px solid transparent; background: none; color: var(--quiet); font: 600 11px var(--figures); cursor: pointer; }
.state:hover { border-color: var(--rule); }
.state.on { border-color: var(--look); color: var(--look); }
.name { display: flex; align-items: center; gap: 6px; min-width: 0; }
.wave { height: 22px; }
.lit .figure { color: var(--accent); font-weight: 600; }
.silent .name, .silent .wave { opacity: 0.5; }
</style>
