<script setup lang="ts">
/** The upper edge of a part, by which it is made higher or lower: dragged, or by the arrow keys. */
const height = defineModel<number>({ required: true })
const { label, low = 90, high = 640 } = defineProps<{ label: string, low?: number, high?: number }>()
const STEP = 20

function set(wanted: number): void {
  height.value = Math.round(Math.max(low, Math.min(high, wanted)))
}

function press(event: PointerEvent): void {
  if (event.button !== 0) return
  const grip = event.currentTarget as HTMLElement
  // As high as it is drawn: where there is little room that is less than was wanted.
  const from = grip.nextElementSibling?.getBoundingClientRect().height ?? height.value
  grip.setPointerCapture(event.pointerId)
  const move = (moved: PointerEvent) => set(from + event.clientY - moved.clientY)
  grip.addEventListener('pointermove', move)
  grip.addEventListener('pointerup', () => grip.removeEventListener('pointermove', move), { once: true })
}

function keydown(event: KeyboardEvent): void {
  const step = { ArrowUp: STEP, ArrowDown: -STEP, Home: -Infinity, End: Infinity }[event.key]
  if (step === undefined) return
  event.preventDefault()
  event.stopPropagation()
  set(height.value + step)
}
</script>

<template>
  <div class="grip" role="separator" aria-orientation="horizontal" tabindex="0" :aria-label="label" :aria-valuenow="height" :aria-valuemin="low" :aria-valuemax="high" @pointerdown="press" @keydown="keydown" />
</template>

<style scoped>
.grip { position: relative; flex: none; height: 5px; margin: -3px 0 -2px; cursor: ns-resize; touch-action: none; z-index: 2; }
/* More to press than is drawn. */
.grip::before { content: ''; position: absolute; inset: -9px 0 -10px; }
.grip:hover, .grip:focus-visible { background: var(--accent); }
</style>
