<script setup lang="ts">
import { whole } from '../../composables/useFormat'
import { useLibrary } from '../../stores/library'

/** Narrows the list to one source. */
const library = useLibrary()
const counts = computed(() => new Map(library.facets.sources.map(({ sourceId, count }) => [sourceId, count])))
const chosen = computed({
  get: () => library.search.source ?? '',
  set: (source: number | '' | undefined) => {
    library.search.source = typeof source === 'number' ? source : undefined
  },
})
</script>

<template>
  <el-select v-model="chosen" clearable filterable placeholder="Every source" aria-label="Source" class="picker">
    <el-option v-for="source in library.sources" :key="source.id" :value="source.id" :label="source.name">
      <span class="choice"><span class="cut">{{ source.name }}</span><span class="figure quiet">{{ whole(counts.get(source.id) ?? 0) }}</span></span>
    </el-option>
  </el-select>
</template>

<style scoped>
.picker { width: 170px; }
.choice { display: flex; gap: 12px; justify-content: space-between; }
</style>
