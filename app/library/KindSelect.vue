<script setup lang="ts">
import { holdsWords } from '~~/core/search/holdsWords'
import { KINDS } from '~~/core/search/kinds'

/** A kind out of the whole tree, or one of the given choices that are no kinds. Typed words mean a kind first of all. */
const kind = defineModel<string>({ required: true })
const { others = [] } = defineProps<{ label: string, others?: readonly { readonly value: string, readonly label: string }[] }>()

const typed = ref('')
const kinds = KINDS.map(({ path, label }) => ({ value: path, label, depth: path.split('.').length - 1 }))
const choices = computed(() => {
  if (typed.value.trim() === '') return [...others, ...kinds]
  return [
    ...kinds.filter(({ label, value }) => holdsWords(`${label} ${value}`, typed.value)),
    ...others.filter(({ label }) => holdsWords(label, typed.value)),
  ]
})
</script>

<template>
  <el-select-v2 v-model="kind" :options="choices" filterable :filter-method="(words: string) => typed = words" default-first-option :aria-label="label" @visible-change="typed = ''">
    <template #default="{ item }">
      <span v-if="'depth' in item" class="choice" :style="{ paddingLeft: `${item.depth * 14}px` }"><KindStamp :kind="item.value" /><span>{{ item.label }}</span></span>
      <span v-else>{{ item.label }}</span>
    </template>
  </el-select-v2>
</template>

<style scoped>
.choice { display: flex; align-items: center; gap: 8px; }
</style>
