<script setup lang="ts">
import { startDrag } from './useDrag'
import { DCaret } from '@element-plus/icons-vue'

/** A handle by which a part is made higher or lower: dragged, or by the arrow keys. */
const height = defineModel<number>({ required: true })
const { label, of, low = 90, high = 640 } = defineProps<{ label: string, /** The part as it is drawn. */ of: HTMLElement | null, low?: number, high?: number }>()
const STEP = 20

function set(wanted: number): void {
  height.value = Math.round(Math.max(low, Math.min(high, wanted)))
}

function press(event: PointerEvent): void {
  // As high as it is drawn: where there is little room that is less than was wanted.
  const from = of?.getBoundingClientRect().height ?? height.value
  const before = height.value
  startDrag(event, { move: (_moved, { y }) => set(from - y), cancel: () => height.value = before })
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
  <div class="handle" role="separator" aria-orientation="horizontal" tabindex="0" :title="`${label}: drag, or press the arrow keys`" :aria-label="label" :aria-valuenow="height" :aria-valuemin="low" :aria-valuemax="high" @pointerdown="press" @keydown="keydown">
    <el-icon><DCaret /></el-icon>
  </div>
</template>

<style scoped>
.handle { display: inline-flex; align-items: center; justify-content: center; flex: none; width: 28px; height: 24px; background: var(--paper); color: var(--quiet); cursor: ns-resize; touch-action: none; }
.handle:hover { color: var(--ink); }
</style>
