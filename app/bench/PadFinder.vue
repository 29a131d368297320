<script setup lang="ts">
import { noteLabel } from '~~/core/audio/notes'
import { padLabel } from '~~/core/kit/padLabel'
import { kindLabel } from '~~/core/search/kinds'
import { holdsWords } from '~~/core/search/holdsWords'
import { backToView } from '../parts/useFirstFocus'
import { useKit } from './kit'
import { useSettings } from '../parts/settings'

/** Finds a pad by a few letters of its name, its role, its place or its note. */
const kit = useKit()
const settings = useSettings()
const field = useTemplateRef<{ focus: () => void, blur: () => void }>('field')
const words = ref('')

const pads = computed(() => kit.kit.pads.map((pad, index) => {
  const label = `${padLabel(index)}  ${noteLabel(pad.note, settings.middleC)}  ${pad.layers.length > 0 ? pad.name : 'empty'}`
  return { index, label, words: `${label.replace(' · ', ' ')} ${pad.role === null ? '' : kindLabel(pad.role)}` }
}))
const found = computed(() => words.value.trim() === '' ? pads.value : pads.value.filter(pad => holdsWords(pad.words, words.value)))

function take(index: number): void {
  kit.select(index)
  leave()
}

function leave(): void {
  words.value = ''
  // The field takes the keyboard once more after a choice.
  setTimeout(() => {
    field.value?.blur()
    backToView()
  })
}

defineExpose({ focus: () => field.value?.focus() })
</script>

<template>
  <el-select ref="field" class="finder" :model-value="undefined" filterable default-first-option :persistent="false" :filter-method="(typed: string) => words = typed" placeholder="Find a pad" no-match-text="No pad" aria-label="Find a pad by name, role or note" @change="take" @keydown.esc.stop.prevent="leave">
    <el-option v-for="pad in found" :key="pad.index" :value="pad.index" :label="pad.label" />
  </el-select>
</template>

<style scoped>
.finder { width: 140px; flex: 0 1 140px; min-width: 84px; max-width: 140px; }
</style>
