<script setup lang="ts">
import type { Family, FlaggedFile } from '~~/server/library/overview'
import type { SourceView } from '~~/server/library/sources'
import { api } from '../../composables/useApi'
import { whole } from '../../composables/useFormat'
import { saying } from '../../composables/useSay'

/** One source more closely: what could not be read, what is missing, its rules, its families, its list. */
const { source } = defineProps<{ source: SourceView }>()
const emit = defineEmits<{ shown: [] }>()

/** Lines drawn at a time; the whole list can be saved. */
const MOST_SHOWN = 200

const tab = ref('flagged')
const unreadable = shallowRef<readonly { path: string, reason: string }[]>([])
const missing = shallowRef<readonly { path: string }[]>([])
const flagged = shallowRef<readonly FlaggedFile[]>([])
const families = shallowRef<readonly Family[]>([])

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
          <ul class="lines">
            <li v-for="entry in unreadable.slice(0, MOST_SHOWN)" :key="entry.path">
              <strong>{{ entry.path }}</strong>: {{ entry.reason }}
            </li>
          </ul>
          <p v-if="unreadable.length > MOST_SHOWN" class="quiet">
            and {{ whole(unreadable.length - MOST_SHOWN) }} more, in the saved list
          </p>
        </template>
      </el-tab-pane>
      <el-tab-pane :label="`Missing: ${whole(missing.length)}`" name="missing">
        <p v-if="missing.length === 0" class="quiet">
          Nothing that was seen before is missing.
        </p>
        <template v-else>
          <p class="quiet">
            They were there before. Their kinds, tags and places in kits are kept, and come back with them.
          </p>
          <ul class="lines">
            <li v-for="entry in missing.slice(0, MOST_SHOWN)" :key="entry.path">
              {{ entry.path }}
            </li>
          </ul>
          <p v-if="missing.length > MOST_SHOWN" class="quiet">
            and {{ whole(missing.length - MOST_SHOWN) }} more
          </p>
        </template>
      </el-tab-pane>
      <el-tab-pane :label="`To look at: ${whole(flagged.length)}`" name="flagged">
        <FlaggedList :flagged="flagged" :source="source.id" :most="MOST_SHOWN" @shown="emit('shown')" />
      </el-tab-pane>
      <el-tab-pane label="Rules" name="rules">
        <RulesPanel :source="source" />
      </el-tab-pane>
      <el-tab-pane :label="`Families: ${whole(families.length)}`" name="families">
        <FamilyList :families="families" :most="MOST_SHOWN" @shown="emit('shown')" />
      </el-tab-pane>
      <el-tab-pane label="List" name="list">
        <ListPanel :source="source" />
      </el-tab-pane>
    </el-tabs>
  </section>
</template>

<style scoped>
.detail { margin-top: 14px; }
</style>
