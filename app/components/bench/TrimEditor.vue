<script setup lang="ts">
import type { Layer } from '~~/core/kit/document'
import { seconds } from '../../composables/useFormat'
import type { WaveformPicture } from '../../composables/useWaveformPainter'

/** Start and end of a layer over its waveform: dragged here, typed in the fields below, or moved with the arrow keys. */
const props = defineProps<{ layer: Layer, outline: Int8Array | null }>()
const emit = defineEmits<{ change: [settings: { startFrame?: number, endFrame?: number }] }>()

type Edge = 'startFrame' | 'endFrame'
const EDGES: readonly { edge: Edge, label: string }[] = [{ edge: 'startFrame', label: 'Start' }, { edge: 'endFrame', label: 'End' }]
const box = useTemplateRef<HTMLElement>('box')

const picture = computed<WaveformPicture | null>(() => props.outline && {
  outline: props.outline,
  start: props.layer.startFrame / props.layer.sound.frames,
  end: props.layer.endFrame / props.layer.sound.frames,
})

function place(edge: Edge): string {
  return `${props.layer[edge] / props.layer.sound.frames * 100}%`
}

function drag(edge: Edge, event: PointerEvent): void {
  event.preventDefault()
  const handle = event.currentTarget as HTMLElement
  handle.focus()
  handle.setPointerCapture(event.pointerId)
  const move = (moved: PointerEvent) => {
    const bounds = box.value!.getBoundingClientRect()
    set(edge, Math.round((moved.clientX - bounds.left) / bounds.width * props.layer.sound.frames))
  }
  handle.addEventListener('pointermove', move)
  handle.addEventListener('pointerup', () => handle.removeEventListener('pointermove', move), { once: true })
}

function keydown(edge: Edge, event: KeyboardEvent): void {
  const step = Math.round(props.layer.sound.sampleRate * (event.shiftKey ? 0.01 : 0.001))
  const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
  if (way === undefined) return
  event.preventDefault()
  event.stopPropagation()
  set(edge, props.layer[edge] + way * step)
}

function set(edge: Edge, frame: number): void {
  const { startFrame, endFrame, sound } = props.layer
  const held = edge === 'startFrame' ? Math.max(0, Math.min(frame, endFrame - 1)) : Math.max(startFrame + 1, Math.min(frame, sound.frames))
  if (held !== props.layer[edge]) emit('change', { [edge]: held })
}
</script>

<template>
  <div ref="box" class="trim">
    <WaveForm :picture="picture" :label="`Waveform of ${layer.sound.name}`" />
    <div
      v-for="{ edge, label } in EDGES"
      :key="edge"
      class="edge"
      :class="edge"
      role="slider"
      tabindex="0"
      :aria-label="label"
      aria-valuemin="0"
      :aria-valuemax="layer.sound.frames"
      :aria-valuenow="layer[edge]"
      :aria-valuetext="seconds(layer[edge] / layer.sound.sampleRate)"
      :style="{ left: place(edge) }"
      :title="`${label}: drag, or ← → by 1 ms, with Shift by 10 ms`"
      @pointerdown="drag(edge, $event)"
      @keydown="keydown(edge, $event)"
    />
  </div>
</template>

<style scoped>
.trim { position: relative; height: 84px; margin: 0 5px; border-top: 1px solid var(--rule); border-bottom: 1px solid var(--rule); background: var(--sheet); touch-action: none; }
.edge { position: absolute; top: 0; bottom: 0; width: 11px; margin-left: -5px; cursor: ew-resize; }
.edge::before { content: ''; position: absolute; left: 5px; top: 0; bottom: 0; width: 1px; background: var(--accent); }
.edge::after { content: ''; position: absolute; top: 0; width: 5px; height: 8px; background: var(--accent); }
.startFrame::after { left: 5px; }
.endFrame::after { right: 5px; }
</style>
