<script setup lang="ts">
import { fitRoutes, type ForeignListing, type ReadForeign } from '~~/contract/fit'
import { NUMBERINGS, type Numbering } from '~~/core/formats/samples/numbering'
import { api, toEmporionError } from '../parts/useApi'
import { counted } from '../parts/useFormat'
import { saying } from '../parts/useSay'
import { useUpload } from '../parts/useUpload'
import type { DroppedKit } from '../parts/useDroppedFiles'
import { useJobs } from '../parts/jobs'
import { useSettings } from '../parts/settings'
import { useVault } from '../vault'

/** Reads a kit of another sampler into the vault, with its samples: from this computer's disk, or from a file that is handed over. */
const open = defineModel<boolean>({ required: true })
/** A file or folder to begin with, taken once. */
const given = defineModel<DroppedKit | undefined>('file')
const emit = defineEmits<{ read: [presetId: string] }>()

const jobs = useJobs()
const settings = useSettings()
const vault = useVault()
const upload = useUpload()
const chooser = useTemplateRef<HTMLInputElement>('chooser')
const path = ref('')
const isUpload = ref(false)
const listing = shallowRef<ForeignListing & { readonly path: string }>()
const chosen = ref<number>(0)
const numbering = ref<Numbering | ''>('')
const problem = ref('')
const isBusy = ref(false)
const result = shallowRef<ReadForeign>()

async function look(): Promise<void> {
  listing.value = undefined
  result.value = undefined
  problem.value = ''
  isBusy.value = true
  try {
    listing.value = await api(fitRoutes.listForeign, { body: { path: path.value } })
    chosen.value = 0
  }
  catch (thrown) {
    problem.value = toEmporionError(thrown).message
  }
  isBusy.value = false
}

async function takeFile(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const [file] = input.files ?? []
  input.value = ''
  if (file) await send(file)
}

watch(given, async (file) => {
  if (!file) return
  given.value = undefined
  await send(file)
}, { immediate: true })

async function send(file: DroppedKit): Promise<void> {
  isBusy.value = true
  await saying(async () => {
    path.value = await upload.sendKit(file)
    isUpload.value = true
    await look()
  })
  isBusy.value = false
}

async function read(): Promise<void> {
  const { value: found } = listing
  if (!found) return
  isBusy.value = true
  problem.value = ''
  try {
    const choice = found.choices[chosen.value]
    const spec = { path: found.path, middleC: settings.middleC, isUpload: isUpload.value, ...(found.choices.length > 1 && choice ? { preset: String(chosen.value + 1) } : {}), ...(numbering.value === '' ? {} : { numbering: numbering.value }) }
    result.value = await jobs.finished(await api(fitRoutes.importForeign, { body: spec }))
    isUpload.value = false
    await vault.load()
    emit('read', result.value.presetId)
  }
  catch (thrown) {
    problem.value = toEmporionError(thrown).message
  }
  isBusy.value = false
}
</script>

<template>
  <el-dialog v-model="open" title="Import a kit from another sampler" width="640" top="8vh" append-to-body>
    <p class="quiet">
      SFZ, SoundFont (.sf2), DLS, a kit package, an archive, or a folder of numbered or note-named samples. It goes into the vault with copies of its samples.
    </p>
    <div class="from">
      <el-input v-model="path" aria-label="Path of the kit" placeholder="Path of a file or a folder" @update:model-value="isUpload = false" @keydown.enter.stop.prevent="look" />
      <el-button :disabled="path.trim() === ''" :loading="isBusy" @click="look">
        Open
      </el-button>
      <el-button @click="chooser?.click()">
        Choose a file…
      </el-button>
      <input ref="chooser" type="file" accept=".sf2,.dls,.zip" class="visually-hidden" tabindex="-1" aria-label="File of a kit" @change="takeFile">
    </div>
    <p v-if="problem" class="lost" role="alert">
      {{ problem }}
    </p>
    <template v-if="listing">
      <p>
        <strong>{{ listing.name }}</strong>, {{ listing.format }}<template v-if="listing.choices.length > 1">
          with {{ counted(listing.choices.length, 'kit') }}<template v-if="listing.format === 'SoundFont'">, percussion first</template>
        </template>
      </p>
      <el-select v-if="listing.choices.length > 1" v-model="chosen" filterable aria-label="Kit">
        <el-option v-for="(choice, i) in listing.choices" :key="i" :value="i" :label="`${choice.place}  ${choice.name}`" />
      </el-select>
      <label v-if="listing.format === 'sample set'" class="way">Read names by
        <el-select v-model="numbering" aria-label="How names are read">
          <el-option value="" label="automatic" /><el-option v-for="way in NUMBERINGS" :key="way" :value="way" :label="way" />
        </el-select>
      </label>
    </template>
    <div v-if="result" role="status">
      <p>"{{ result.name }}" is in the vault.</p>
      <ul v-if="result.remarks.length + result.missing.length > 0" class="remarks">
        <li v-for="line in result.missing" :key="line" class="lost">
          Missing: {{ line }}
        </li>
        <li v-for="line in result.remarks" :key="line">
          {{ line }}
        </li>
      </ul>
    </div>
    <template #footer>
      <el-button @click="open = false">
        {{ result ? 'Done' : 'Cancel' }}
      </el-button>
      <el-button type="primary" :disabled="!listing" :loading="isBusy" @click="read">
        Import {{ listing?.choices[chosen]?.name ?? 'it' }} into the vault
      </el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.from { display: flex; gap: 6px; }
.from .el-button { margin: 0; }
.way { display: grid; grid-template-columns: 130px 1fr; align-items: center; margin-top: 8px; }
.remarks { max-height: 200px; overflow-y: auto; margin: 0; padding-left: 18px; font-size: 12px; }
</style>
