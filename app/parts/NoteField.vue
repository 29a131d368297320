<script setup lang="ts">
import { noteLabel, parseNote } from '~~/core/audio/notes'
import { useSettings } from './settings'

/** A note that is typed by its number or its name, and moved with the arrow keys. What is neither leaves it as it was, and says so. */
const note = defineModel<number>({ required: true })
const { label } = defineProps<{ label: string }>()

const settings = useSettings()
const text = ref('')
const isWrong = ref(false)
watch(note, now => text.value = String(now), { immediate: true })

function take(): void {
  const read = parseNote(text.value, settings.middleC)
  isWrong.value = read === undefined
  if (read === undefined) return
  note.value = read
  text.value = String(read)
}

function keydown(event: Event | KeyboardEvent): void {
  const step = 'key' in event ? { ArrowUp: 1, ArrowDown: -1 }[event.key] : undefined
  if (step === undefined || !('key' in event)) return
  event.preventDefault()
  event.stopPropagation()
  isWrong.value = false
  note.value = Math.max(0, Math.min(127, note.value + step * (event.shiftKey ? 12 : 1)))
}
</script>

<template>
  <span class="note">
    <el-input v-model="text" size="small" class="figure" :aria-label="label" :aria-invalid="isWrong" @keydown="keydown" @keydown.enter.prevent="take" @blur="take" @input="isWrong = false" />
    <span v-if="isWrong" class="lost" role="alert">Type a note as a number from 0 to 127 or by name, such as {{ noteLabel(36, settings.middleC).split(' · ')[1] }}.</span>
  </span>
</template>

<style scoped>
.note { display: inline-flex; align-items: center; gap: 8px; }
.note .el-input { width: 90px; }
</style>
