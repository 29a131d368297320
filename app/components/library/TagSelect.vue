<script setup lang="ts">
import { api } from '../../composables/useApi'
import { whole } from '../../composables/useFormat'

/** Any number of tags: those in use are offered, new ones are typed. */
const tags = defineModel<string[]>({ required: true })
defineProps<{ label: string, placeholder?: string }>()

const choices = shallowRef<{ readonly value: string, readonly label: string, readonly count: number }[]>([])

onMounted(async () => {
  const inUse = await api<{ tag: string, count: number }[]>('/api/library/tags').catch(() => [])
  choices.value = inUse.map(({ tag, count }) => ({ value: tag, label: tag, count }))
})
</script>

<template>
  <el-select-v2 v-model="tags" :options="choices" multiple filterable allow-create default-first-option :reserve-keyword="false" :aria-label="label" :placeholder="placeholder ?? 'None'" class="tags">
    <template #default="{ item }">
      {{ item.label }} <span v-if="'count' in item" class="figure quiet">{{ whole(item.count) }}</span>
    </template>
  </el-select-v2>
</template>

<style scoped>
.tags { width: 100%; }
</style>
