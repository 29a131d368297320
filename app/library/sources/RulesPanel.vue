<script setup lang="ts">
import { sourceRoutes, type RuleView, type SourceView } from '~~/contract/sources'
import { kindLabel } from '~~/core/search/kinds'
import { inNaturalOrder } from '~~/core/search/naturalKey'
import type { JobView } from '~~/contract/jobs'
import { api } from '../../parts/useApi'
import { counted, whole } from '../../parts/useFormat'
import { saying } from '../../parts/useSay'
import { useJobs } from '../../parts/jobs'

/** "Everything in this folder is a tom": rules that hold for all that lies there, now and after later scans. */
const { source } = defineProps<{ source: SourceView }>()

const NO_KIND = 'none'
const jobs = useJobs()
const rules = shallowRef<readonly RuleView[]>([])
const folders = shallowRef<readonly { folder: string, files: number }[]>([])
const folder = ref<string>()
const kind = ref(NO_KIND)
const tags = ref<string[]>([])
const isBusy = ref(false)

async function load(): Promise<void> {
  const found = await saying(() => api(sourceRoutes.rules, { params: { id: source.id } }))
  if (!found) return
  rules.value = found.rules
  folders.value = found.folders
}

/** Folders that hold sounds, and those above them. */
const choices = computed(() => {
  const counts = new Map<string, number>([['', 0]])
  for (const { folder: path, files } of folders.value) {
    for (let at = path; ; at = at.includes('/') ? at.slice(0, at.lastIndexOf('/')) : '') {
      counts.set(at, (counts.get(at) ?? 0) + files)
      if (at === '') break
    }
  }
  return inNaturalOrder([...counts].map(([path, files]) => ({ value: path, label: path || 'The whole source', files })), ({ value }) => value)
})

async function work(begin: () => Promise<JobView>): Promise<void> {
  isBusy.value = true
  await saying(async () => jobs.finished(await begin()))
  await load()
  isBusy.value = false
}

async function add(): Promise<void> {
  const rule = { folder: folder.value ?? '', kind: kind.value === NO_KIND ? null : kind.value, tags: tags.value }
  await work(() => api(sourceRoutes.setRule, { params: { id: source.id }, body: rule }))
  folder.value = undefined
  kind.value = NO_KIND
  tags.value = []
}

onMounted(load)
</script>

<template>
  <div>
    <p class="quiet">
      A rule says what everything in a folder is. What was set by hand for a single sound goes before it; names and audio come after.
    </p>
    <ul v-if="rules.length > 0" class="rules">
      <li v-for="rule in rules" :key="rule.id">
        <span>Everything in <strong>{{ rule.folder || 'the whole source' }}</strong> is
          <template v-if="rule.kind"><KindStamp :kind="rule.kind" /> {{ kindLabel(rule.kind) }}</template><template v-if="rule.tags.length > 0">{{ rule.kind ? ', ' : '' }}tagged {{ rule.tags.join(', ') }}</template>
          <span class="quiet"> · {{ counted(rule.files, 'file') }}</span></span>
        <el-button size="small" :disabled="isBusy" @click="work(() => api(sourceRoutes.removeRule, { params: { id: source.id, rule: rule.id } }))">
          Delete rule
        </el-button>
      </li>
    </ul>
    <div class="new">
      <el-select-v2 v-model="folder" :options="choices" filterable aria-label="Folder of the rule" placeholder="Folder" class="folder">
        <template #default="{ item }">
          {{ item.label }} <span class="figure quiet">{{ whole(item.files) }}</span>
        </template>
      </el-select-v2>
      <KindSelect v-model="kind" label="Kind of the rule" :others="[{ value: NO_KIND, label: 'No kind' }]" class="kind" />
      <TagSelect v-model="tags" label="Tags of the rule" placeholder="Tags" class="tags" />
      <el-button type="primary" :loading="isBusy" :disabled="folder === undefined || (kind === NO_KIND && tags.length === 0)" @click="add">
        Add rule
      </el-button>
    </div>
  </div>
</template>

<style scoped>
.rules { list-style: none; margin: 0 0 8px; padding: 0; }
.rules li { display: flex; align-items: center; justify-content: space-between; gap: 12px; min-height: var(--row); border-bottom: 1px solid var(--rule); }
.rules .stamp { vertical-align: -3px; }
.new { display: flex; gap: 8px; align-items: center; }
.folder { flex: 1 1 240px; } .kind { flex: 0 0 170px; } .tags { flex: 1 1 180px; }
</style>
