<script setup lang="ts">
import type { Flag } from '~~/core/audio/analysis/figures'
import type { FlaggedFile } from '~~/server/library/overview'
import { FLAG_WORDS } from '../../composables/useFlagWords'
import { whole } from '../../composables/useFormat'
import { useShowInList } from '../../composables/useShowInList'

/** Files of a source that want a look, all named, and by what they are to be shown in the list. */
const { flagged, source } = defineProps<{ flagged: readonly FlaggedFile[], source: number }>()
const emit = defineEmits<{ shown: [] }>()
const showInList = useShowInList()

const sorts = computed(() => {
  const flags = (Object.keys(FLAG_WORDS) as Flag[]).map(flag => ({ word: FLAG_WORDS[flag].word, q: flag === 'several-hits' ? 'is=several-hits -is=loop' : `is=${flag}`, files: flagged.filter(file => file.flags.includes(flag) && (flag !== 'several-hits' || !file.flags.includes('loop'))).length }))
  const damaged = { word: 'damaged', q: 'is=damaged', files: flagged.filter(file => file.warnings.length > 0).length }
  return [...flags.filter(sort => sort.q !== 'is=loop'), damaged].filter(sort => sort.files > 0)
})

function show(q: string): void {
  showInList(q, source)
  emit('shown')
}
</script>

<template>
  <p v-if="flagged.length === 0" class="quiet">
    Nothing in it is silent, clipped, cut short, or holds several hits.
  </p>
  <template v-else>
    <p class="sorts">
      <span class="quiet">Show in the list:</span>
      <el-button v-for="sort in sorts" :key="sort.q" size="small" @click="show(sort.q)">
        {{ sort.word }} <span class="figure">{{ whole(sort.files) }}</span>
      </el-button>
    </p>
    <LongList v-slot="{ item }" :items="flagged" :key-of="file => file.path">
      <strong>{{ item.path }}</strong>: <span class="look">{{ item.flags.map(flag => FLAG_WORDS[flag].word).join(', ') }}</span> {{ item.warnings.join(' ') }}
    </LongList>
  </template>
</template>

<style scoped>
.sorts { display: flex; flex-wrap: wrap; align-items: center; gap: 8px; margin: 4px 0; }
.sorts .el-button { margin: 0; }
.sorts .figure { margin-left: 6px; }
</style>
