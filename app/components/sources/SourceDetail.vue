<script setup lang="ts">
import type { FlaggedFile } from '~~/server/library/overview'
import type { SourceView } from '~~/server/library/sources'
import { api } from '../../composables/useApi'
import { FLAG_WORDS } from '../../composables/useFlagWords'
import { whole } from '../../composables/useFormat'
import { saying } from '../../composables/useSay'

/** One source more closely: what could not be read, what is missing, its rules, its families, its list. */
const { source } = defineProps<{ source: SourceView }>()

/** Lines drawn at a time; the whole list can be saved. */
const MOST_SHOWN = 200

const tab = ref('flagged')
const unreadable = shallowRef<readonly { path: string, reason: string }[]>([])
const missing = shallowRef<readonly { path: string }[]>([])
const flagged = shallowRef<readonly FlaggedFile[]>([])
const families = shallowRef<readonly { family: string, files: number, example: string }[]>([])

watch(() => [source.unreadable, source.missing, source.lastScanAt], async () => {
  await saying(async () => {
    [unreadable.value, missing.value, flagged.value, families.value] = await Promise.all([
      api<{ path: string, reason: string }[]>(`/api/sources/${source.id}/unreadable`),
      api<{ path: string }[]>(`/api/sources/${source.id}/missing`),
      api<FlaggedFile[]>(`/api/sources/${source.id}/flagged`),
      api<{ family: string, files: number, example: string }[]>(`/api/sources/${source.id}/families`),
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
        <p v-if="flagged.length === 0" class="quiet">
          Nothing in it is silent, clipped, cut short, or holds several hits.
        </p>
        <ul v-else class="lines">
          <li v-for="entry in flagged.slice(0, MOST_SHOWN)" :key="entry.path">
            <strong>{{ entry.path }}</strong>: <span class="look">{{ entry.flags.map(flag => FLAG_WORDS[flag].word).join(', ') }}</span> {{ entry.warnings.join(' ') }}
          </li>
        </ul>
        <p v-if="flagged.length > MOST_SHOWN" class="quiet">
          and {{ whole(flagged.length - MOST_SHOWN) }} more
        </p>
      </el-tab-pane>
      <el-tab-pane label="Rules" name="rules">
        <RulesPanel :source="source" />
      </el-tab-pane>
      <el-tab-pane :label="`Families: ${whole(families.length)}`" name="families">
        <p v-if="families.length === 0" class="quiet">
          No two names differ in nothing but velocity or take (v1, rr2, take 3, p, mf, ff).
        </p>
        <template v-else>
          <p class="quiet">
            Strokes of one instrument: their names differ in nothing but velocity and take.
          </p>
          <ul class="lines">
            <li v-for="entry in families.slice(0, MOST_SHOWN)" :key="entry.family">
              <strong>{{ entry.family }}</strong> · {{ whole(entry.files) }} strokes <span class="quiet">{{ entry.example }} …</span>
            </li>
          </ul>
        </template>
      </el-tab-pane>
      <el-tab-pane label="List" name="list">
        <ListPanel :source="source" />
      </el-tab-pane>
    </el-tabs>
  </section>
</template>

<style scoped>
.detail { margin-top: 14px; }
.lines { margin: 6px 0; padding-left: 18px; }
.lines li { margin-bottom: 3px; overflow-wrap: anywhere; }
</style>
