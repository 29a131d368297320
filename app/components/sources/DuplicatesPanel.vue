<script setup lang="ts">
import type { DuplicateGroup, Duplicates } from '~~/server/library/duplicates'
import { api } from '../../composables/useApi'
import { counted, megabytes, whole } from '../../composables/useFormat'
import { saying } from '../../composables/useSay'

/** What lies in the library more than once: to the sample, and as the same recording at another level, rate or length. */
const emit = defineEmits<{ shown: [] }>()

type Group = DuplicateGroup & { readonly identical: readonly (readonly string[])[] }

const PAGE = 50
const found = shallowRef<Duplicates>()
const groups = shallowRef<readonly Group[]>([])

async function more(): Promise<void> {
  const page = await saying(() => api<Duplicates & { shown: Group[] }>('/api/library/duplicates', { query: { limit: PAGE, offset: groups.value.length } }))
  if (!page) return
  found.value = page
  groups.value = [...groups.value, ...page.shown]
}

/** How the files of a group are alike. */
function likeness(group: Group): string {
  const twins = group.identical.filter(paths => paths.length > 1)
  if (twins.length === 1 && twins[0]!.length === group.files.length) return 'identical files'
  return twins.length > 0 ? 'the same audio, some of them identical files' : 'the same audio in another container, or with other tags'
}

onMounted(more)
</script>

<template>
  <div>
    <h2>The same audio</h2>
    <p v-if="found && found.groups === 0" class="quiet">
      No sound lies in two files.
    </p>
    <p v-else-if="found" class="sum">
      {{ counted(found.groups, 'sound') }} in <span class="figure">{{ whole(found.files) }}</span> files; <span class="figure">{{ megabytes(found.wastedBytes) }}</span> could be freed. Emporion deletes nothing by itself.
    </p>
    <ul class="groups">
      <li v-for="group in groups" :key="group.hash">
        <strong>{{ group.name }}</strong> <span class="quiet">{{ likeness(group) }}, <span class="figure">{{ megabytes(group.wastedBytes) }}</span></span>
        <div v-for="file in group.files" :key="file.path" class="path">
          {{ file.path }} <span class="figure quiet">{{ megabytes(file.size) }}</span>
        </div>
      </li>
    </ul>
    <el-button v-if="found && groups.length < found.groups" size="small" @click="more">
      Show {{ Math.min(PAGE, found.groups - groups.length) }} more
    </el-button>
    <NearGroups @shown="emit('shown')" />
  </div>
</template>

<style scoped>
h2 { margin: 12px 0 4px; }
.sum { margin: 4px 0; }
.groups { list-style: none; margin: 6px 0; padding: 0; }
.groups li { padding: 5px 0; border-bottom: 1px solid var(--rule); }
.path { font-size: 12px; overflow-wrap: anywhere; }
</style>
