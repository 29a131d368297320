<script setup lang="ts">
import type { Family, FlaggedFile } from '~~/server/library/overview'
import type { SourceView } from '~~/server/library/sources'
import { api } from '../../composables/useApi'
import { counted, whole } from '../../composables/useFormat'
import { say, saying } from '../../composables/useSay'

/** One source more closely: what could not be read, what is missing, its rules, its families, its list. */
const { source } = defineProps<{ source: SourceView }>()
const emit = defineEmits<{ shown: [] }>()

const tab = ref('flagged')
const unreadable = shallowRef<readonly { path: string, reason: string }[]>([])
const missing = shallowRef<readonly { path: string }[]>([])
const flagged = shallowRef<readonly FlaggedFile[]>([])
const families = shallowRef<readonly Family[]>([])

/** Files that were not even tried, by what their names end with. */
const leftOut = computed(() => {
  const told = Object.entries(source.otherEndings).sort(([a, one], [b, other]) => other - one || (a < b ? -1 : 1))
  const rest = source.otherFiles - told.reduce((sum, [, count]) => sum + count, 0)
  return [...told.map(([ending, count]) => `${whole(count)} ${ending ? `.${ending}` : 'without an ending'}`), ...rest > 0 ? [`${whole(rest)} others`] : []].join(', ')
})

watch(() => [source.unreadable, source.missing, source.lastScanAt], async () => {
  await saying(async () => {
    [unreadable.value, missing.value, flagged.value, families.value] = await Promise.all([
      api<{ path: string, reason: string }[]>(`/api/sources/${source.id}/unreadable`),
      api<{ path: string }[]>(`/api/sources/${source.id}/missing`),
      api<FlaggedFile[]>(`/api/sources/${source.id}/flagged`),
      api<Family[]>(`/api/sources/${source.id}/families`),
    ])
  })
}, { immediate: true })

async function forgetMissing(): Promise<void> {
  const sure = await ElMessageBox.confirm('What was set of their sounds is kept all the same, and is there again should they come back.', `List ${counted(missing.value.length, 'file')} no more?`, { confirmButtonText: 'List them no more', cancelButtonText: 'Leave it' }).catch(() => undefined)
  if (!sure) return
  await saying(async () => {
    const { forgotten } = await api<{ forgotten: number }>(`/api/sources/${source.id}/missing`, { method: 'DELETE' })
    say(`${counted(forgotten, 'file')} of "${source.name}" ${forgotten === 1 ? 'is' : 'are'} listed as missing no more.`)
  })
}

if (source.unreadable > 0) tab.value = 'unreadable'
else if (source.missing > 0) tab.value = 'missing'
</script>

<template>
  <section :aria-label="`Details of ${source.name}`" class="detail">
    <h2>{{ source.name }}</h2>
    <el-tabs v-model="tab">
      <el-tab-pane :label="`Not read: ${whole(unreadable.length)}`" name="unreadable">
        <p v-if="unreadable.length === 0" class="quiet">
          Every audio file in it could be read.
        </p>
        <template v-else>
          <a :href="`/api/sources/${source.id}/unreadable.txt`" download>Save the list as text</a>
          <LongList v-slot="{ item }" :items="unreadable" :key-of="file => file.path" where=", in the saved list">
            <strong>{{ item.path }}</strong>: {{ item.reason }}
          </LongList>
        </template>
        <p v-if="source.otherFiles > 0" class="quiet">
          Left out, no audio by their names: {{ leftOut }}.
        </p>
      </el-tab-pane>
      <el-tab-pane :label="`Missing: ${whole(missing.length)}`" name="missing">
        <p v-if="missing.length === 0" class="quiet">
          Nothing that was seen before is missing.
        </p>
        <template v-else>
          <p class="quiet">
            They were there before. Their kinds, tags and places in kits are kept, and come back with them.
          </p>
          <p class="acts">
            <a :href="`/api/sources/${source.id}/missing.txt`" download>Save the list as text</a>
            <el-button size="small" @click="forgetMissing">
              They are gone for good: list them no more…
            </el-button>
          </p>
          <LongList v-slot="{ item }" :items="missing" :key-of="file => file.path" where=", in the saved list">
            {{ item.path }}
          </LongList>
        </template>
      </el-tab-pane>
      <el-tab-pane :label="`To look at: ${whole(flagged.length)}`" name="flagged">
        <FlaggedList :flagged="flagged" :source="source.id" @shown="emit('shown')" />
      </el-tab-pane>
      <el-tab-pane label="Rules" name="rules">
        <RulesPanel :source="source" />
      </el-tab-pane>
      <el-tab-pane :label="`Families: ${whole(families.length)}`" name="families">
        <FamilyList :families="families" @shown="emit('shown')" />
      </el-tab-pane>
      <el-tab-pane label="List" name="list">
        <ListPanel :source="source" />
      </el-tab-pane>
    </el-tabs>
  </section>
</template>

<style scoped>
.detail { margin-top: 14px; }
.acts { display: flex; align-items: center; gap: 12px; margin: 6px 0; }
</style>
