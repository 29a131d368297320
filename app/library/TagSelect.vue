<script setup lang="ts">
import { libraryRoutes } from '~~/contract/library'
import { api } from '../parts/useApi'
import { whole } from '../parts/useFormat'

/** Any number of tags: those in use are offered, new ones are typed. */
const tags = defineModel<string[]>({ required: true })
defineProps<{ label: string, placeholder?: string }>()

const inUse = shallowRef<readonly { readonly tag: string, readonly count: number }[]>([])

onMounted(async () => {
  inUse.value = await api(libraryRoutes.tags).catch(() => [])
})
</script>

<template>
  <el-select v-model="tags" multiple filterable allow-create default-first-option :reserve-keyword="false" :aria-label="label" :placeholder="placeholder ?? 'None'" class="tags">
    <el-option v-for="entry in inUse" :key="entry.tag" :value="entry.tag" :label="entry.tag">
      {{ entry.tag }} <span class="figure quiet">{{ whole(entry.count) }}</span>
    </el-option>
  </el-select>
</template>

<style scoped>
.tags { width: 100%; }
</style>
