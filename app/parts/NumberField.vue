<script setup lang="ts">
import { startDrag } from './useDrag'
/**
 * A number with its unit that can be typed, dragged sideways by its label, wheeled once it was clicked into (so that scrolling past
 * it changes nothing), moved with the arrow keys, and reset by a double click on its label. Several values that differ are shown as mixed; moving keeps their differences.
 */
const props = withDefaults(defineProps<{
  label: string
  /** Its name in full, where the label is short. */
  named?: string
  /** Every value that an edit is for. */
  values: readonly number[]
  min: number
  max: number
  step: number
  /** What a reset brings back; none where there is nothing to go back to. */
  reset?: number
  digits?: number
  unit?: string
  /** Typed values move each by as much, in place of setting all. */
  isRelative?: boolean
  disabled?: boolean
}>(), { digits: 1 })
const emit = defineEmits<{
  /** All get this value. A gesture's edits carry one key. */
  set: [value: number, gesture: string]
  /** Each moves by as much. */
  move: [by: number, gesture: string]
}>()

const PIXELS_A_STEP = 4
const text = ref('')
const isTyping = ref(false)
const input = useTemplateRef<HTMLInputElement>('input')
/** What stood in the field when typing began: left as it is, it is no edit, however it was rounded. */
let untouched = ''
let gestures = 0

const isMixed = computed(() => props.values.some(value => value !== props.values[0]))
const shown = computed(() => {
  if (props.values.length === 0) return ''
  if (isMixed.value) return 'mixed'
  return props.values[0]!.toFixed(props.digits)
})
watch(shown, (now) => {
  if (isTyping.value) return
  text.value = now
  untouched = now
}, { immediate: true })

function typed(): void {
  const isChanged = isTyping.value && text.value !== untouched
  isTyping.value = false
  const value = Number(text.value.replace(',', '.').replace('−', '-'))
  if (isChanged && text.value.trim() !== '' && Number.isFinite(value)) {
    const gesture = `typed ${props.label} ${++gestures}`
    if (props.isRelative) emit('move', value, gesture)
    else emit('set', Math.max(props.min, Math.min(props.max, value)), gesture)
  }
  text.value = shown.value
}

function begin(event: FocusEvent): void {
  isTyping.value = true
  text.value = props.isRelative || isMixed.value ? '' : shown.value
  untouched = text.value
  void nextTick(() => (event.target as HTMLInputElement).select())
}

function keydown(event: KeyboardEvent): void {
  const way = { ArrowUp: 1, ArrowDown: -1 }[event.key]
  if (way === undefined) return
  event.preventDefault()
  event.stopPropagation()
  stopTyping()
  emit('move', way * props.step * (event.shiftKey ? 10 : 1), `keys ${props.label}`)
}

/** Moves go on from the value that is shown. */
function stopTyping(): void {
  isTyping.value = false
  text.value = shown.value
}

function wheel(event: WheelEvent): void {
  if (props.disabled || event.deltaY === 0 || document.activeElement !== input.value) return
  event.preventDefault()
  stopTyping()
  emit('move', (event.deltaY < 0 ? 1 : -1) * props.step * (event.shiftKey ? 10 : 1), `wheel ${props.label}`)
}

function drag(event: PointerEvent): void {
  if (props.disabled || event.button !== 0) return
  const gesture = `drag ${props.label} ${++gestures}`
  const before = [...props.values]
  let [taken, moved] = [0, 0]
  startDrag(event, {
    move: ({ shiftKey }, { x }) => {
      const steps = Math.trunc(x / PIXELS_A_STEP)
      if (steps === taken) return
      const by = (steps - taken) * props.step * (shiftKey ? 10 : 1)
      emit('move', by, gesture)
      taken = steps
      moved += by
    },
    cancel: () => {
      if (taken === 0) return
      if (before.every(value => value === before[0])) emit('set', before[0]!, gesture)
      else emit('move', -moved, gesture)
    },
  })
}

function toReset(): void {
  if (props.reset !== undefined && !props.disabled) emit('set', props.reset, `reset ${props.label}`)
}
</script>

<template>
  <div class="number" :class="{ disabled }" @wheel="wheel">
    <span class="label cut" :title="disabled ? undefined : `Drag sideways; Shift for ten times as much${reset === undefined ? '' : `; double click: back to ${reset}`}`" @pointerdown="drag" @dblclick="toReset">{{ label }}</span>
    <input
      ref="input"
      v-model="text"
      class="figure"
      :class="{ mixed: isMixed }"
      type="text"
      inputmode="decimal"
      role="spinbutton"
      :aria-valuemin="min"
      :aria-valuemax="max"
      :aria-valuenow="isMixed ? undefined : values[0]"
      :aria-valuetext="shown"
      :aria-label="unit ? `${named ?? label}, ${unit}` : named ?? label"
      :placeholder="isRelative ? 'by' : ''"
      :disabled="disabled || values.length === 0"
      @focus="begin"
      @input="isTyping = true"
      @blur="typed"
      @keydown.enter.prevent="typed"
      @keydown.esc="stopTyping"
      @keydown="keydown"
    >
    <span class="unit quiet">{{ unit }}</span>
  </div>
</template>

<style scoped>
.number { display: grid; grid-template-columns: minmax(0, 1fr) 70px 26px; align-items: center; gap: 5px; height: 26px; }
.label { cursor: ew-resize; touch-action: none; user-select: none; }
input { width: 100%; height: 24px; padding: 0 5px; border: 1px solid var(--rule); background: var(--sheet); color: var(--ink); font: inherit; font-family: var(--figures); text-align: right; }
input.mixed { color: var(--look); }
.disabled { color: var(--quiet); }
.unit { font-size: 11px; }
</style>
