<script setup lang="ts">
import { KINDS } from '~~/core/search/kinds'

/** A kind out of the whole tree, or one of the given choices that are no kinds. */
const kind = defineModel<string>({ required: true })
defineProps<{ label: string, others?: readonly { readonly value: string, readonly label: string }[] }>()

const kinds = KINDS.map(entry => ({ ...entry, depth: entry.path.split('.').length - 1 }))
</script>

<template>
  <el-select v-model="kind" filterable :aria-label="label" popper-class="kind-choices">
    <el-option v-for="other in others ?? []" :key="other.value" :value="other.value" :label="other.label" />
    <el-option v-for="entry in kinds" :key="entry.path" :value="entry.path" :label="entry.label">
      <span class="choice" :style="{ paddingLeft: `${entry.depth * 14}px` }"><KindStamp :kind="entry.path" /><span>{{ entry.label }}</span></span>
    </el-option>
  </el-select>
</template>

<style scoped>
.choice { display: flex; align-items: center; gap: 8px; }
</style>
