<script setup lang="ts">
import type { JobView } from '~~/server/jobs/types'
import type { SourceView } from '~~/server/library/sources'
import { api } from '../../composables/useApi'
import { counted, megabytes, moment, whole } from '../../composables/useFormat'
import { say, saying } from '../../composables/useSay'
import { useLibrary } from '../../stores/library'

/** What was brought in: each source with its figures, what could not be read in it, and what can be done with it. */
const open = defineModel<boolean>({ required: true })

const library = useLibrary()
const shown = ref<SourceView>()
const unreadable = shallowRef<readonly { path: string, reason: string }[]>([])

watch(open, isOpen => isOpen && void saying(library.loadSources), { immediate: true })

async function list(source: SourceView): Promise<void> {
  const found = await saying(() => api<{ path: string, reason: string }[]>(`/api/sources/${source.id}/unreadable`))
  if (!found) return
  unreadable.value = found
  shown.value = source
}

async function scan(source: SourceView): Promise<void> {
  await saying(() => api<JobView>(`/api/sources/${source.id}/scan`, { method: 'POST' }))
}

async function remove(source: SourceView): Promise<void> {
  const files = source.uploaded ? 'Its copies in the data folder are deleted.' : 'The folder itself is left as it is.'
  const sure = await ElMessageBox.confirm(`${files} Presets in the vault keep their own samples.`, `Remove "${source.name}" from the library?`, {
    confirmButtonText: `Remove ${counted(source.files, 'file')} from the library`, cancelButtonText: 'Keep it',
  }).catch(() => undefined)
  if (!sure) return
  await saying(async () => {
    await api(`/api/sources/${source.id}`, { method: 'DELETE' })
    if (library.search.source === source.id) library.search.source = undefined
    await library.loadSources()
    say(`"${source.name}" was removed from the library.`)
  })
}
</script>

<template>
  <el-dialog v-model="open" title="Sources" width="980" append-to-body>
    <p v-if="library.sources.length === 0" class="quiet">
      Nothing has been brought in yet.
    </p>
    <table v-else class="sources">
      <thead>
        <tr><th>Source</th><th class="right">Files</th><th class="right">Size</th><th class="right">Not read</th><th class="right">Missing</th><th>Last scan</th><th /></tr>
      </thead>
      <tbody>
        <tr v-for="source in library.sources" :key="source.id">
          <td class="name">
            <strong class="cut">{{ source.name }}</strong><div class="quiet cut" :title="source.path">
              {{ source.path }}
            </div>
          </td>
          <td class="figure right">
            {{ whole(source.files) }}
          </td>
          <td class="figure right">
            {{ megabytes(source.bytes) }}
          </td>
          <td class="figure right">
            <el-button v-if="source.unreadable > 0" size="small" link type="danger" @click="list(source)">
              {{ whole(source.unreadable) }}: show why
            </el-button>
            <template v-else>
              0
            </template>
          </td>
          <td class="figure right" :class="{ look: source.missing > 0 }">
            {{ whole(source.missing) }}
          </td>
          <td class="quiet">
            {{ source.lastScanAt ? moment(source.lastScanAt) : 'not finished' }}<div v-if="source.otherFiles > 0">
              {{ counted(source.otherFiles, 'other file') }} left out
            </div>
          </td>
          <td class="right acts">
            <el-button size="small" @click="scan(source)">
              Scan again
            </el-button>
            <el-button size="small" @click="remove(source)">
              Remove…
            </el-button>
          </td>
        </tr>
      </tbody>
    </table>
    <template v-if="shown">
      <h2 class="why">
        Not read in {{ shown.name }}
      </h2>
      <ul class="reasons">
        <li v-for="entry in unreadable" :key="entry.path">
          <strong>{{ entry.path }}</strong>: {{ entry.reason }}
        </li>
      </ul>
    </template>
  </el-dialog>
</template>

<style scoped>
.sources { width: 100%; border-collapse: collapse; table-layout: fixed; }
.sources th { text-align: left; font-weight: 400; font-size: 12px; color: var(--quiet); border-bottom: 1px solid var(--rule); padding: 4px 6px; }
.sources td { padding: 4px 6px; border-bottom: 1px solid var(--rule); vertical-align: top; }
.sources th:nth-child(n + 2) { width: 76px; } .sources th:nth-child(4) { width: 112px; } .sources th:nth-child(6) { width: 144px; } .sources th:nth-child(7) { width: 196px; }
.right { text-align: right !important; }
.acts { white-space: nowrap; }
.why { margin: 16px 0 6px; }
.reasons { max-height: 180px; overflow-y: auto; margin: 0; padding-left: 18px; }
.reasons li { margin-bottom: 4px; overflow-wrap: anywhere; }
</style>
