<script setup lang="ts">
import { addressOf } from '~~/contract/endpoint'
import { fitRoutes, type WrittenFits } from '~~/contract/fit'
import { bytesWords } from '~~/core/fit/words'
import { api } from '../parts/useApi'
import { downloadUrl } from '../parts/useDownload'
import { counted } from '../parts/useFormat'
import { say, saying } from '../parts/useSay'
import { useFit } from './fit'
import { useJobs } from '../parts/jobs'
import { useSettings } from '../parts/settings'
import { useTargets } from './targets'

/** Writes the kits for the targets: one after the other, with one summary. */
const open = defineModel<boolean>({ required: true })

const fit = useFit()
const jobs = useJobs()
const settings = useSettings()
const targets = useTargets()
const toFolder = ref(settings.fit.folder !== '')
const folder = ref(settings.fit.folder)
const job = ref<string>()
const result = shallowRef<WrittenFits>()

const pairs = computed(() => settings.fit.kits.length * settings.fit.targets.length)
const progress = computed(() => job.value === undefined ? undefined : jobs.byId.get(job.value)?.progress)
const cannot = computed(() => pairs.value === 1 && (fit.plan?.shortfalls.length ?? 0) > 0)

watch(open, (is) => {
  if (is) result.value = undefined
})

async function write(): Promise<void> {
  result.value = undefined
  const chosen = settings.fit.targets.map(id => targets.byId(id)).filter(target => target !== undefined)
  const spec = { kits: settings.fit.kits.map(id => fit.asked(id)), targets: chosen, wishes: pairs.value === 1 ? fit.wishes : { holds: {}, importance: {} }, way: settings.fit.way === '' ? null : settings.fit.way, withoutMissing: settings.fit.withoutMissing }
  await saying(async () => {
    settings.fit = { ...settings.fit, folder: toFolder.value ? folder.value : '' }
    const begun = await api(fitRoutes.write, { body: { spec, folder: toFolder.value ? folder.value : null } })
    job.value = begun.id
    result.value = await jobs.finished(begun)
    const { download, items } = result.value
    if (download !== null) downloadUrl(addressOf(fitRoutes.file, { params: { id: download } }))
    const done = items.filter(item => item.folder !== null).length
    if (done > 0) say(`${counted(done, 'kit')} written.`)
  })
  job.value = undefined
}
</script>

<template>
  <el-dialog v-model="open" :title="pairs === 1 ? `Export ${fit.kitName} for ${fit.target.name}` : `Export ${counted(settings.fit.kits.length, 'kit')} for ${counted(settings.fit.targets.length, 'target')}`" width="640" top="8vh" append-to-body>
    <el-radio-group v-model="toFolder" aria-label="Destination">
      <el-radio :value="false">
        Download
      </el-radio>
      <el-radio :value="true">
        Save to a folder on this computer
      </el-radio>
    </el-radio-group>
    <FolderBrowser v-if="toFolder" v-model="folder" is-to-write />
    <p class="quiet">
      Each kit goes into a folder of its own, with its report. Existing files are not overwritten.
    </p>
    <p v-if="pairs > 1" class="quiet">
      What is held counts where one kit is written for one target; here each is planned freely.
    </p>
    <el-checkbox :model-value="settings.fit.withoutMissing" label="Leave out samples that are missing" @update:model-value="settings.fit = { ...settings.fit, withoutMissing: $event === true }" />
    <p v-if="cannot" class="lost" role="alert">
      The kit cannot be made to fit. See the report beside the plan.
    </p>
    <div v-if="job" role="status" class="progress">
      <el-progress :percentage="progress?.total ? Math.round(progress.done / progress.total * 100) : 0" :stroke-width="6" :show-text="false" aria-label="Exporting" />
      <span class="quiet cut">{{ progress?.at }}</span>
      <el-button size="small" @click="saying(() => jobs.cancel(job!))">
        Cancel
      </el-button>
    </div>
    <table v-if="result" class="summary" aria-label="Exported files">
      <thead><tr><th>Kit</th><th>Target</th><th>Files</th><th>Size</th><th>Result</th></tr></thead>
      <tbody>
        <tr v-for="item in result.items" :key="`${item.kit} ${item.target}`">
          <td class="cut">{{ item.kit }}</td>
          <td class="cut">{{ item.target }}</td>
          <td class="figure">{{ item.error === null ? item.files : '–' }}</td>
          <td class="figure">{{ item.error === null ? bytesWords(item.bytes, 'MB') : '–' }}</td>
          <td v-if="item.error !== null" class="lost">{{ item.error }}</td>
          <td v-else>
            {{ item.outcome }}<span v-if="item.missing.length > 0" class="lost">, {{ counted(item.missing.length, 'sample') }} missing</span>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="result && result.download === null && result.items.some(item => item.folder !== null)" class="quiet where">
      In {{ result.folder }}
    </p>
    <template #footer>
      <el-button @click="open = false">
        {{ result ? 'Done' : 'Cancel' }}
      </el-button>
      <el-button type="primary" :disabled="job !== undefined || cannot || (toFolder && folder === '')" @click="write">
        {{ pairs === 1 ? 'Export kit' : `Export ${counted(pairs, 'kit')}` }}
      </el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.progress { display: grid; grid-template-columns: 180px minmax(0, 1fr) auto; align-items: center; gap: 10px; margin-top: 8px; }
.summary { width: 100%; margin-top: 10px; border-collapse: collapse; }
.summary th { text-align: left; color: var(--quiet); font-weight: 400; }
.summary td, .summary th { padding: 4px 6px; border-bottom: 1px solid var(--rule); vertical-align: top; }
.summary .cut { max-width: 150px; }
.where { overflow-wrap: anywhere; }
</style>
