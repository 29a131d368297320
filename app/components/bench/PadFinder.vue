<script setup lang="ts">
import { noteLabel } from '~~/core/audio/notes'
import { padLabel } from '~~/core/kit/padLabel'
import { kindLabel } from '~~/core/search/kinds'
import { holdsWords } from '~~/core/search/holdsWords'
import { backToView } from '../../composables/useFirstFocus'
import { useKit } from '../../stores/kit'
import { useSettings } from '../../stores/settings'

/** Finds a pad by a few letters of its name, its role, its place or its note. */
const kit = useKit()
const settings = useSettings()
const field = useTemplateRef<{ focus: () => void }>('field')
const text = ref('')

interface Found {
  readonly value: string
  readonly index: number
}

const pads = computed(() => kit.kit.pads.map((pad, index): Found & { readonly words: string } => {
  const label = `${padLabel(index)}  ${noteLabel(pad.note, settings.middleC)}  ${pad.layers.length > 0 ? pad.name : 'empty'}`
  return { value: label, index, words: `${label.replace(' · ', ' ')} ${pad.role === null ? '' : kindLabel(pad.role)}` }
}))

function find(words: string, show: (found: Found[]) => void): void {
  show(words.trim() === '' ? [] : pads.value.filter(pad => holdsWords(pad.words, words)))
}

function take(found: unknown): void {
  kit.select((found as Found).index)
  text.value = ''
  backToView()
}

function leave(event: KeyboardEvent | Event): void {
  event.preventDefault()
  event.stopPropagation()
  text.value = ''
  backToView()
}

defineExpose({ focus: () => field.value?.focus() })
</script>

<template>
  <el-autocomplete ref="field" v-model="text" class="finder" size="default" :fetch-suggestions="find" :trigger-on-focus="false" highlight-first-item :debounce="0" placeholder="Find a pad" aria-label="Find a pad by name, role or note" @select="take" @keydown.esc="leave" />
</template>

<style scoped>
.finder { width: 140px; flex: 0 1 140px; min-width: 84px; max-width: 140px; }
</style>
