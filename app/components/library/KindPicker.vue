<script setup lang="ts">
import { KINDS } from '~~/core/search/kinds'
import { whole } from '../../composables/useFormat'
import { useLibrary } from '../../stores/library'

/** Narrows the list to one kind; each with the number of sounds it would leave. A kind includes its subkinds. */
const library = useLibrary()

const counts = computed(() => {
  const own = new Map(library.facets.kinds.map(({ kind, count }) => [kind, count]))
  return (path: string) => [...own].reduce((sum, [kind, count]) => kind === path || kind.startsWith(`${path}.`) ? sum + count : sum, 0)
})

const choices = computed(() => [
  ...KINDS.map(kind => ({ ...kind, depth: kind.path.split('.').length - 1, count: counts.value(kind.path) })).filter(kind => kind.count > 0 || kind.path === library.search.kind),
  { path: 'none', label: 'Kind not known', depth: 0, count: counts.value('none') },
])

// A select gives null when it is cleared; a search knows only "not set".
const chosen = computed({
  get: () => library.search.kind ?? '',
  set: (kind) => {
    library.search.kind = kind || undefined
  },
})
</script>

<template>
  <el-select v-model="chosen" clearable filterable placeholder="Every kind" aria-label="Kind" class="picker" popper-class="kind-choices">
    <el-option v-for="kind in choices" :key="kind.path" :value="kind.path" :label="kind.label">
      <span class="choice" :style="{ paddingLeft: `${kind.depth * 14}px` }">
        <KindStamp :kind="kind.path === 'none' ? null : kind.path" /><span>{{ kind.label }}</span><span class="figure quiet">{{ whole(kind.count) }}</span>
      </span>
    </el-option>
  </el-select>
</template>

<style scoped>
.picker { width: 160px; }
.choice { display: flex; align-items: center; gap: 8px; }
.choice .figure { margin-left: auto; padding-left: 16px; }
</style>
