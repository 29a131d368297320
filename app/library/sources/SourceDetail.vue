<script setup lang="ts">
import { addressOf } from '~~/contract/endpoint'
import { sourceRoutes, type Family, type Flagged, type FlaggedFile, type MissingFile, type SourceView, type UnreadableFile } from '~~/contract/sources'
import { api } from '../../parts/useApi'
import { counted, whole } from '../../parts/useFormat'
import { useLongList, type LongListOf } from '../../parts/useLongList'
import { say, saying } from '../../parts/useSay'

/** One source more closely: what could not be read, what is missing, its rules, its families, its list. */
const { source } = defineProps<{ source: SourceView }>()
const emit = defineEmits<{ shown: [] }>()

const tab = ref('flagged')
const params = computed(() => ({ id: source.id }))
const unreadable = useLongList<UnreadableFile>(query => api(sourceRoutes.unreadable, { params: params.value, query }))
const missing = useLongList<MissingFile>(query => api(sourceRoutes.missing, { params: params.value, query }))
const flagged = useLongList<FlaggedFile, Flagged>(query => api(sourceRoutes.flagged, { params: params.value, query }))
const families = useLongList<Family>(query => api(sourceRoutes.families, { params: params.value, query }))

/** Of a list that is still on its way nothing is shown. */
function titleOf(name: string, list: LongListOf<unknown>): string {
  return list.last ? `${name}: ${whole(list.total)}` : name
}

/** Files that were not even tried, by what their names end with. */
const leftOut = computed(() => {
  const common = Object.entries(source.otherEndings).sort(([a, one], [b, other]) => other - one || (a < b ? -1 : 1))
  const rest = source.otherFiles - common.reduce((sum, [, count]) => sum + count, 0)
  return [...common.map(([ending, count]) => `${whole(count)} ${ending ? `.${ending}` : 'without an ending'}`), ...rest > 0 ? [`${whole(rest)} others`] : []].join(', ')
})

watch(() => [source.unreadable, source.missing, source.lastScanAt], async () => {
  await saying(() => Promise.all([unreadable, missing, flagged, families].map(list => list.load())))
}, { immediate: true })

async function forgetMissing(): Promise<void> {
  const sure = await ElMessageBox.confirm('What was set of their sounds is kept all the same, and is there again should they come back.', `Stop listing ${counted(missing.total, 'missing file')}?`, { confirmButtonText: 'Stop listing them', cancelButtonText: 'Cancel' }).catch(() => undefined)
  if (!sure) return
  await saying(async () => {
    const { forgotten } = await api(sourceRoutes.forgetMissing, { params: { id: source.id } })
    say(`${counted(forgotten, 'file')} of "${source.name}" ${forgotten === 1 ? 'is' : 'are'} no longer listed as missing.`)
  })
}

if (source.unreadable > 0) tab.value = 'unreadable'
else if (source.missing > 0) tab.value = 'missing'
</script>

<template>
  <section :aria-label="`Details of ${source.name}`" class="detail">
    <h2>{{ source.name }}</h2>
    <el-tabs v-model="tab">
      <el-tab-pane :label="`Not read: ${whole(source.unreadable)}`" name="unreadable">
        <p v-if="source.unreadable === 0" class="quiet">
          Every audio file in it could be read.
        </p>
        <template v-else>
          <a :href="addressOf(sourceRoutes.unreadableAsText, { params })" download>Save the list as text</a>
          <LongList v-slot="{ item }" :list="unreadable" :key-of="file => file.path">
            <strong>{{ item.path }}</strong>: {{ item.reason }}
          </LongList>
        </template>
        <p v-if="source.otherFiles > 0" class="quiet">
          Left out, no audio by their names: {{ leftOut }}.
        </p>
      </el-tab-pane>
      <el-tab-pane :label="`Missing: ${whole(source.missing)}`" name="missing">
        <p v-if="source.missing === 0" class="quiet">
          Nothing that was seen before is missing.
        </p>
        <template v-else>
          <p class="quiet">
            They were there before. Their kinds, tags and places in kits are kept, and come back with them.
          </p>
          <p class="acts">
            <a :href="addressOf(sourceRoutes.missingAsText, { params })" download>Save the list as text</a>
            <el-button size="small" @click="forgetMissing">
              Stop listing them…
            </el-button>
          </p>
          <LongList v-slot="{ item }" :list="missing" :key-of="file => file.path">
            {{ item.path }}
          </LongList>
        </template>
      </el-tab-pane>
      <el-tab-pane :label="titleOf('To look at', flagged)" name="flagged">
        <FlaggedList :flagged="flagged" :source="source.id" @shown="emit('shown')" />
      </el-tab-pane>
      <el-tab-pane label="Rules" name="rules" lazy>
        <RulesPanel :source="source" />
      </el-tab-pane>
      <el-tab-pane :label="titleOf('Families', families)" name="families">
        <FamilyList :families="families" @shown="emit('shown')" />
      </el-tab-pane>
      <el-tab-pane label="List" name="list" lazy>
        <ListPanel :source="source" />
      </el-tab-pane>
    </el-tabs>
  </section>
</template>

<style scoped>
.detail { margin-top: 14px; }
.acts { display: flex; align-items: center; gap: 12px; margin: 6px 0; }
</style>
