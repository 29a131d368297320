<script setup lang="ts">
import { startDrag } from '../parts/useDrag'
import { useElementSize } from '@vueuse/core'
import { nearestPlace, nearestZeroCrossing, outlineOf } from '~~/core/audio/snap'
import { setLayer, type LayerSettings } from '~~/core/kit/edits'
import { padLabel } from '~~/core/kit/padLabel'
import { evenCuts, hitCuts, slice, trimPads, type TrimWay } from '~~/core/kit/trims'
import { loadSound, soundUrl, useTimes, type HeardSound } from '../sound'
import { counted, seconds } from '../parts/useFormat'
import { say, saying } from '../parts/useSay'
import type { WaveformPicture } from '../parts/useWaveformPainter'
import { useKit } from './kit'

/** Start, end and fades of a layer over its waveform, and ways to cut all chosen pads at once. Nothing is cut from the file. */
const props = defineProps<{ layerIndex: number }>()
const kit = useKit()
const times = useTimes()
const box = useTemplateRef<HTMLElement>('box')
const { width } = useElementSize(box)
const heard = shallowRef<HeardSound>()
/** Frames in sight. */
const from = ref(0)
const to = ref(1)
const snaps = ref(true)
const parts = ref(4)

type Edge = 'startFrame' | 'endFrame' | 'fadeInFrames' | 'fadeOutFrames'
const EDGES: readonly { edge: Edge, label: string }[] = [
  { edge: 'startFrame', label: 'Start' }, { edge: 'endFrame', label: 'End' }, { edge: 'fadeInFrames', label: 'End of the fade in' }, { edge: 'fadeOutFrames', label: 'Start of the fade out' },
]
const SNAP_PIXELS = 8
const MOST_COLUMNS = 1600
const MS = 1000

const layer = computed(() => kit.pad.layers[props.layerIndex] ?? kit.pad.layers[0])
const layerAt = computed(() => layer.value ? kit.pad.layers.indexOf(layer.value) : 0)
const sound = computed(() => layer.value?.sound)
const span = computed(() => Math.max(1, to.value - from.value))

watch(() => sound.value?.id, async (id) => {
  heard.value = undefined
  if (!id || !sound.value) return
  from.value = 0
  to.value = sound.value.frames
  await saying(() => times.load([id]))
  const loaded = await loadSound(soundUrl(id)).catch(() => undefined)
  if (sound.value?.id === id) heard.value = loaded
}, { immediate: true })

const picture = computed<WaveformPicture | null>(() => {
  const { buffer } = heard.value ?? {}
  if (!buffer || !layer.value || width.value === 0) return null
  const columns = Math.min(MOST_COLUMNS, Math.round(width.value))
  return { outline: outlineOf(buffer.getChannelData(0), from.value, to.value, columns), start: place(layer.value.startFrame), end: place(layer.value.endFrame) }
})

const hits = computed(() => sound.value ? (times.timesOf(sound.value.id)?.hits ?? []).map(hit => Math.round(hit.startSeconds * sound.value!.sampleRate)) : [])

/** Where a frame lies in what is in sight: 0 to 1. */
function place(frame: number): number {
  return (frame - from.value) / span.value
}

function frameOf(edge: Edge): number {
  const { startFrame, endFrame, fadeInFrames, fadeOutFrames } = layer.value!
  return { startFrame, endFrame, fadeInFrames: startFrame + fadeInFrames, fadeOutFrames: endFrame - fadeOutFrames }[edge]
}

function setFrame(edge: Edge, frame: number, isSnapped: boolean): void {
  const now = layer.value
  if (!now) return
  const at = Math.round(isSnapped ? snapped(frame) : frame)
  const { startFrame, endFrame } = now
  const change: LayerSettings = {
    startFrame: { startFrame: Math.max(0, Math.min(at, endFrame - 1)) },
    endFrame: { endFrame: Math.max(startFrame + 1, Math.min(at, now.sound.frames)) },
    fadeInFrames: { fadeInFrames: Math.max(0, Math.min(at, endFrame) - startFrame) },
    fadeOutFrames: { fadeOutFrames: Math.max(0, endFrame - Math.max(at, startFrame)) },
  }[edge]
  kit.edit(`Trim of ${kit.pad.name}`, state => setLayer(state, kit.padIndex, layerAt.value, change), `${edge}:${kit.padIndex}:${layerAt.value}`)
}

/** Hits first, then the nearest zero crossing. */
function snapped(frame: number): number {
  const reach = Math.ceil(SNAP_PIXELS * span.value / Math.max(1, width.value))
  const channel = heard.value?.buffer.getChannelData(0)
  return nearestPlace(hits.value, frame, reach) ?? (channel ? nearestZeroCrossing(channel, Math.round(frame), reach) : frame)
}

function drag(edge: Edge, event: PointerEvent): void {
  const handle = event.currentTarget as HTMLElement
  handle.focus()
  const before = frameOf(edge)
  const move = (moved: PointerEvent) => {
    const bounds = box.value!.getBoundingClientRect()
    setFrame(edge, from.value + (moved.clientX - bounds.left) / bounds.width * span.value, snaps.value && !moved.altKey)
  }
  startDrag(event, { move, cancel: () => frameOf(edge) !== before && setFrame(edge, before, false) })
}

function edgeKey(edge: Edge, event: KeyboardEvent): void {
  const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
  if (way === undefined || !sound.value) return
  event.preventDefault()
  event.stopPropagation()
  setFrame(edge, frameOf(edge) + way * Math.round(sound.value.sampleRate * (event.shiftKey ? 0.01 : 0.001)), false)
}

/** Zooms about a place, 0 to 1 of what is in sight. */
function zoom(factor: number, about = 0.5): void {
  if (!sound.value) return
  const next = Math.max(64, Math.min(sound.value.frames, span.value * factor))
  const centre = from.value + span.value * about
  const first = Math.max(0, Math.min(sound.value.frames - next, centre - next * about))
  from.value = Math.round(first)
  to.value = Math.round(first + next)
}

function wheel(event: WheelEvent): void {
  const bounds = box.value!.getBoundingClientRect()
  if (event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY)) return pan(Math.sign(event.deltaX || event.deltaY) * span.value * 0.1)
  zoom(event.deltaY < 0 ? 0.8 : 1.25, (event.clientX - bounds.left) / bounds.width)
}

function pan(frames: number): void {
  if (!sound.value) return
  const first = Math.max(0, Math.min(sound.value.frames - span.value, from.value + frames))
  const width = span.value
  from.value = Math.round(first)
  to.value = Math.round(first + width)
}

function zoomKey(event: KeyboardEvent): void {
  const act = { '+': () => zoom(0.5), '=': () => zoom(0.5), '-': () => zoom(2), '0': () => zoom(Infinity), 'ArrowLeft': () => pan(-span.value * 0.1), 'ArrowRight': () => pan(span.value * 0.1) }[event.key]
  if (!act) return
  event.preventDefault()
  event.stopPropagation()
  act()
}

const many = computed(() => kit.editedPads.length > 1 ? ` on ${counted(kit.editedPads.length, 'pad')}` : '')
const WAYS: readonly { way: TrimWay, does: string }[] = [
  { way: 'first hit', does: 'Keep only the first hit' }, { way: 'tail', does: 'Cut the tail at -60 dB' }, { way: 'lead', does: 'Cut leading silence' }, { way: 'whole', does: 'Whole sound' },
]

async function trim(way: TrimWay, does: string): Promise<void> {
  const pads = kit.editedPads
  await saying(async () => {
    await kit.stillAtHand(times.load(pads.flatMap(index => kit.kit.pads[index]!.layers.map(one => one.sound.id))))
    const before = kit.kit
    kit.edit(`${does}${many.value}`, state => trimPads(state, pads, way, times.timesOf))
    if (kit.kit === before) say({ 'first hit': 'There is one hit at most: nothing to cut.', 'tail': 'Nothing lies beyond -60 dB.', 'lead': 'There is no silence before the sound.', 'whole': 'Already the whole sound.' }[way])
  })
}

function sliceAt(cuts: readonly number[]): void {
  if (cuts.length < 2) return say('There is one hit at most: nothing to slice.')
  const sliced = slice(kit.kit, kit.padIndex, cuts)
  kit.edit(`Slice ${kit.pad.name} into ${sliced.padIndexes.length}`, () => sliced.kit)
  const last = sliced.padIndexes.at(-1)
  say(`${counted(sliced.padIndexes.length, 'slice')} on pads ${padLabel(sliced.padIndexes[0]!)} to ${padLabel(last!)}.${sliced.leftOver > 0 ? ` ${counted(sliced.leftOver, 'slice')} found no pad.` : ''}`)
}

const atHits = computed(() => layer.value && sound.value ? hitCuts(layer.value, times.timesOf(sound.value.id) ?? { leadSeconds: 0, endSeconds: 0, hits: [] }) : [])

const FIELDS = [
  { edge: 'startFrame', label: 'Start', value: () => layer.value!.startFrame, frame: (frames: number) => frames },
  { edge: 'endFrame', label: 'End', value: () => layer.value!.endFrame, frame: (frames: number) => frames },
  { edge: 'fadeInFrames', label: 'Fade in', value: () => layer.value!.fadeInFrames, frame: (frames: number) => layer.value!.startFrame + frames },
  { edge: 'fadeOutFrames', label: 'Fade out', value: () => layer.value!.fadeOutFrames, frame: (frames: number) => layer.value!.endFrame - frames },
] as const
const toMs = (frames: number) => frames / sound.value!.sampleRate * MS
const toFrames = (ms: number) => Math.round(ms / MS * sound.value!.sampleRate)
</script>

<template>
  <div class="trim">
    <div class="tools">
      <el-button v-for="{ way, does } in WAYS" :key="way" size="small" :disabled="kit.editedPads.every(index => kit.kit.pads[index]!.layers.length === 0)" @click="trim(way, does)">
        {{ does }}{{ many }}
      </el-button>
      <span class="gap" />
      <el-button size="small" :disabled="!layer || atHits.length < 2" @click="sliceAt(atHits)">
        Slice at its {{ counted(atHits.length, 'hit') }}
      </el-button>
      <el-button size="small" :disabled="!layer" @click="layer && sliceAt(evenCuts(layer, parts))">
        Slice evenly by
      </el-button>
      <el-input-number v-model="parts" size="small" :min="2" :max="128" :controls="false" aria-label="Slices" class="parts" />
    </div>
    <p v-if="!layer || !sound" class="quiet empty">
      No sound on this pad yet.
    </p>
    <template v-else>
      <div ref="box" class="wave" tabindex="0" :aria-label="`Waveform of ${sound.name}: + and - zoom, arrows move along`" role="group" @wheel.prevent="wheel" @keydown="zoomKey">
        <WaveForm v-if="picture" :picture="picture" :label="`Waveform of ${sound.name}`" />
        <span v-else class="quiet loading">Reading {{ sound.name }}</span>
        <span v-for="hit in hits.filter(frame => frame >= from && frame <= to)" :key="hit" class="hit" :style="{ left: `${place(hit) * 100}%` }" />
        <span
          v-for="{ edge, label } in EDGES"
          v-show="place(frameOf(edge)) >= -0.001 && place(frameOf(edge)) <= 1.001"
          :key="edge"
          class="edge"
          :class="edge"
          role="slider"
          tabindex="0"
          :aria-label="label"
          aria-valuemin="0"
          :aria-valuemax="sound.frames"
          :aria-valuenow="frameOf(edge)"
          :aria-valuetext="seconds(frameOf(edge) / sound.sampleRate)"
          :style="{ left: `${place(frameOf(edge)) * 100}%` }"
          :title="`${label}: drag (Alt: without snapping), or ← → by 1 ms, with Shift by 10 ms`"
          @pointerdown.prevent="drag(edge, $event)"
          @keydown="edgeKey(edge, $event)"
        />
      </div>
      <div class="fields">
        <NumberField
          v-for="{ edge, label, value, frame } in FIELDS"
          :key="edge"
          :label="label"
          unit="ms"
          :values="[toMs(value())]"
          :min="0"
          :max="toMs(sound.frames)"
          :step="1"
          :reset="edge === 'endFrame' ? toMs(sound.frames) : 0"
          @set="setFrame(edge, frame(toFrames($event)), false)"
          @move="setFrame(edge, frame(value() + toFrames($event)), false)"
        />
        <label class="snap"><el-checkbox v-model="snaps" size="small" aria-label="Snap to hits and zero crossings" />Snap</label>
        <el-button-group>
          <el-button size="small" aria-label="Zoom in" @click="zoom(0.5)">
            +
          </el-button>
          <el-button size="small" aria-label="Zoom out" @click="zoom(2)">
            −
          </el-button>
          <el-button size="small" @click="zoom(Infinity)">
            All
          </el-button>
        </el-button-group>
        <span class="figure quiet">{{ seconds(from / sound.sampleRate) }} – {{ seconds(to / sound.sampleRate) }}</span>
      </div>
    </template>
  </div>
</template>

<style scoped>
.trim { display: flex; flex-direction: column; flex: 1; min-height: 0; }
.tools { display: flex; flex-wrap: wrap; align-items: center; gap: 4px 5px; padding: 5px 12px; }
.tools :deep(.el-button) { margin-left: 0; padding: 5px 7px; }
.gap { flex: 1; }
.parts { width: 38px; }
.empty, .loading { padding: 6px 12px; }
.wave { position: relative; flex: 1; min-height: 60px; margin: 0 14px; border-top: 1px solid var(--rule); border-bottom: 1px solid var(--rule); background: var(--sheet); overflow: hidden; touch-action: none; }
.hit { position: absolute; top: 0; bottom: 0; width: 1px; background: var(--quiet); opacity: 0.6; pointer-events: none; }
.edge { position: absolute; top: 0; bottom: 0; width: 11px; margin-left: -5px; cursor: ew-resize; }
.edge::before { content: ''; position: absolute; left: 5px; top: 0; bottom: 0; width: 1px; background: var(--accent); }
.edge::after { content: ''; position: absolute; top: 0; width: 5px; height: 10px; background: var(--accent); }
.startFrame::after { left: 5px; }
.endFrame::after { right: 5px; }
.fadeInFrames, .fadeOutFrames { top: 70%; }
.fadeInFrames::before, .fadeOutFrames::before { border-left: 1px dashed var(--look); background: none; }
.fadeInFrames::after, .fadeOutFrames::after { top: auto; bottom: 0; left: 2px; width: 7px; height: 7px; background: var(--look); }
.fields { display: flex; flex-wrap: wrap; align-items: center; gap: 2px 14px; padding: 4px 14px 6px; font-size: 12px; }
.fields :deep(.number) { grid-template-columns: auto 62px 20px; }
.snap { display: inline-flex; align-items: center; gap: 4px; }
</style>
