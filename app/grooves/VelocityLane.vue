<script setup lang="ts">
import { startDrag } from '../parts/useDrag'
import { useElementSize } from '@vueuse/core'
import type { Hit } from '~~/core/groove/document'
import { paintVelocities } from './usePatternPainter'
import { usePatternActions } from './usePatternActions'
import { usePatternRows } from './usePatternRows'
import { useThemeColours } from '../parts/useThemeColours'
import { useGrooves } from './grooves'
import { useKit } from '../bench'
import { counted } from '../parts/useFormat'

/** Velocities of the current part, or of the chosen parts over each other, drawn up and down. */
const props = defineProps<{ pixelsPerTick: number, scrollLeft: number, width: number }>()

const NEAR_PIXELS = 8

const kit = useKit()
const grooves = useGrooves()
const actions = usePatternActions()
const { rows, rowAtHand } = usePatternRows()
const colours = useThemeColours()
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const field = useTemplateRef<HTMLElement>('field')
const { height } = useElementSize(field)
/** One part alone, or those of all chosen pads. */
const isAlone = ref(false)
let gestures = 0

const shown = computed(() => {
  const atHand = rowAtHand.value
  const others = isAlone.value ? [] : rows.value.filter(row => row !== atHand && row.padIndex !== null && kit.chosenPads.has(row.padIndex))
  return [...others.flatMap(row => row.hits.map(hit => ({ hit, isAtHand: false }))), ...(atHand?.hits ?? []).map(hit => ({ hit, isAtHand: true }))]
})

watch([shown, height, colours, () => props.width, () => props.scrollLeft, () => props.pixelsPerTick, () => grooves.chosen, () => grooves.pattern, () => grooves.stepTicks], () => {
  if (!canvas.value || props.width === 0) return
  paintVelocities(canvas.value, {
    width: props.width, height: height.value, scrollLeft: props.scrollLeft, pixelsPerTick: props.pixelsPerTick, metre: grooves.pattern.metre, bars: grooves.pattern.bars,
    stepTicks: grooves.stepTicks, region: grooves.bars, chosen: grooves.chosen, colours: colours.value, hits: shown.value,
  })
}, { flush: 'post', immediate: true })

/** The hits that a place means: the chosen ones near it, else all that are shown near it. */
function near(x: number): ReadonlySet<Hit> {
  const found = shown.value.filter(({ hit }) => Math.abs(hit.tick * props.pixelsPerTick - props.scrollLeft - x) <= NEAR_PIXELS).map(({ hit }) => hit)
  const chosen = found.filter(hit => grooves.chosen.has(hit))
  return new Set(chosen.length > 0 ? chosen : found)
}

function press(event: PointerEvent): void {
  if (event.button !== 0) return
  const target = event.currentTarget as HTMLElement
  const gesture = `lane ${++gestures}`
  const draw = (moved: PointerEvent) => {
    const bounds = target.getBoundingClientRect()
    const hits = near(moved.clientX - bounds.left)
    if (hits.size > 0) actions.setVelocities(hits, (1 - (moved.clientY - bounds.top) / bounds.height) * 127, gesture)
  }
  draw(event)
  startDrag(event, { move: draw, cancel: () => grooves.takeBack(gesture) })
}
</script>

<template>
  <div class="lane-label">
    <span>Velocity</span>
    <button type="button" class="chip" :class="{ on: !isAlone }" :aria-pressed="!isAlone" title="Hits of the chosen pads over each other" @click="isAlone = false">
      selected pads
    </button>
    <button type="button" class="chip" :class="{ on: isAlone }" :aria-pressed="isAlone" title="Current pad only" @click="isAlone = true">
      current pad
    </button>
    <span class="quiet figure">{{ counted(shown.length, 'hit') }}</span>
  </div>
  <div ref="field" class="lane" title="Drag to draw velocities" @pointerdown="press">
    <canvas ref="canvas" class="canvas" :style="{ width: `${width}px`, height: `${height}px` }" aria-hidden="true" />
  </div>
</template>

<style scoped>
.lane-label { display: flex; flex-wrap: wrap; align-content: flex-start; align-items: center; gap: 4px; padding: 6px 8px; border-top: 1px solid var(--rule); border-right: 1px solid var(--rule); font-size: 12px; }
.lane-label > :first-child { flex-basis: 100%; }
.chip { height: 24px; padding: 0 5px; border: 1px solid var(--rule); border-radius: 2px; background: none; color: var(--quiet); font-size: 11px; cursor: pointer; }
.chip.on { border-color: var(--accent); color: var(--accent); }
.lane { position: relative; border-top: 1px solid var(--rule); overflow: hidden; cursor: ns-resize; touch-action: none; }
.canvas { position: absolute; left: 0; top: 0; }
</style>
