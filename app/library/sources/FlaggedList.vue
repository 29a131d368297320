<script setup lang="ts">
import type { Flag } from '~~/core/audio/analysis/figures'
import type { Flagged, FlaggedFile } from '~~/contract/sources'
import { FLAG_WORDS } from '../../parts/useFlagWords'
import { whole } from '../../parts/useFormat'
import type { LongListOf } from '../../parts/useLongList'
import { useShowInList } from '../useShowInList'

/** Files of a source that want a look, all named, and by what they are to be shown in the list. */
const { flagged, source } = defineProps<{ flagged: LongListOf<FlaggedFile, Flagged>, source: number }>()
const emit = defineEmits<{ shown: [] }>()
const showInList = useShowInList()

const sorts = computed(() => {
  const counts = flagged.last?.counts ?? {}
  const flags = (Object.keys(FLAG_WORDS) as Flag[]).map(flag => ({ word: FLAG_WORDS[flag].word, q: flag === 'several-hits' ? 'is=several-hits -is=loop' : `is=${flag}`, files: counts[flag] ?? 0 }))
  return [...flags, { word: 'damaged', q: 'is=damaged', files: counts.damaged ?? 0 }].filter(sort => sort.files > 0)
})

function show(q: string): void {
  showInList(q, source)
  emit('shown')
}
</script>

<template>
  <p v-if="!flagged.last" class="quiet">
    Looking…
  </p>
  <p v-else-if="flagged.total === 0" class="quiet">
    Nothing in it is silent, clipped, cut short, or holds several hits.
  </p>
  <template v-else>
    <p class="sorts">
      <span class="quiet">Show in the list:</span>
      <el-button v-for="sort in sorts" :key="sort.q" size="small" @click="show(sort.q)">
        {{ sort.word }} <span class="figure">{{ whole(sort.files) }}</span>
      </el-button>
    </p>
    <LongList v-slot="{ item }" :list="flagged" :key-of="file => file.path">
      <strong>{{ item.path }}</strong>: <span class="look">{{ item.flags.map(flag => FLAG_WORDS[flag].word).join(', ') }}</span> {{ item.warnings.join(' ') }}
    </LongList>
  </template>
</template>

<style scoped>
.sorts { display: flex; flex-wrap: wrap; align-items: center; gap: 8px; margin: 4px 0; }
.sorts .el-button { margin: 0; }
.sorts .figure { margin-left: 6px; }
</style>
