<script setup lang="ts">
import { libraryRoutes, type DuplicateGroup, type Duplicates } from '~~/contract/library'
import { api } from '../../parts/useApi'
import { counted, megabytes, whole } from '../../parts/useFormat'
import { useLongList } from '../../parts/useLongList'
import { saying } from '../../parts/useSay'

/** What lies in the library more than once: to the sample, and as the same recording at another level, rate or length. */
const emit = defineEmits<{ shown: [] }>()

type Group = DuplicateGroup & { readonly identical: readonly (readonly string[])[] }

const list = useLongList<Group, Duplicates & { shown: readonly Group[], total: number }>(async (stretch) => {
  const page = await api(libraryRoutes.duplicates, { query: stretch })
  return { ...page, total: page.groups }
}, 50)

/** How the files of a group are alike. */
function likeness(group: Group): string {
  const likeness = likenessOf(group)
  return group.total > group.files.length ? `the first ${whole(group.files.length)} named, ${likeness}` : likeness
}

function likenessOf(group: Group): string {
  const twins = group.identical.filter(paths => paths.length > 1)
  if (twins.length === 1 && twins[0]!.length === group.files.length) return 'identical files'
  return twins.length > 0 ? 'the same audio, some of them identical files' : 'the same audio in another container, or with other tags'
}

onMounted(() => saying(list.load))
</script>

<template>
  <div>
    <h2>The same audio</h2>
    <p v-if="list.last && list.total === 0" class="quiet">
      No sound lies in two files.
    </p>
    <p v-else-if="list.last" class="sum">
      {{ counted(list.last.groups, 'sound') }} in <span class="figure">{{ whole(list.last.files) }}</span> files; <span class="figure">{{ megabytes(list.last.wastedBytes) }}</span> could be freed. Emporion deletes nothing by itself.
    </p>
    <LongList v-slot="{ item: group }" :list="list" :key-of="one => one.hash">
      <strong>{{ group.name }}</strong> <span class="quiet">{{ likeness(group) }}, <span class="figure">{{ megabytes(group.wastedBytes) }}</span></span>
      <div v-for="file in group.files" :key="file.path" class="path">
        {{ file.path }} <span class="figure quiet">{{ megabytes(file.size) }}</span>
      </div>
      <div v-if="group.total > group.files.length" class="path quiet">
        and {{ whole(group.total - group.files.length) }} more
      </div>
    </LongList>
    <NearGroups @shown="emit('shown')" />
  </div>
</template>

<style scoped>
h2 { margin: 12px 0 4px; }
.sum { margin: 4px 0; }
.path { font-size: 12px; overflow-wrap: anywhere; }
</style>
