<script setup lang="ts">
import { padLabel } from '~~/core/kit/padLabel'
import type { LedgerColumn } from '../components/common/LedgerTable.vue'
import { askName } from '../composables/useAskName'
import { counted, megabytes, moment, whole } from '../composables/useFormat'
import { downloadUrl } from '../composables/useDownload'
import { useFirstFocus } from '../composables/useFirstFocus'
import { useCommands } from '../composables/useCommands'
import { say, saying, sayError } from '../composables/useSay'
import { useKeyChoices } from '../stores/keys'
import { useKit } from '../stores/kit'
import { usePlayer } from '../stores/player'
import { useVault } from '../stores/vault'

const vault = useVault()
const kit = useKit()
const player = usePlayer()
const table = useTemplateRef<{ focus: () => void }>('table')
const chooser = useTemplateRef<HTMLInputElement>('chooser')
const binOpen = ref(false)
const cursor = ref(0)

const columns: readonly LedgerColumn[] = [
  { key: 'name', title: 'Preset', width: 180, grows: true },
  { key: 'pads', title: 'Pads', width: 56, align: 'right' },
  { key: 'samples', title: 'Samples', width: 70, align: 'right' },
  { key: 'size', title: 'Size', width: 84, align: 'right' },
  { key: 'revision', title: 'Revision', width: 76, align: 'right' },
  { key: 'stored', title: 'Stored', width: 150 },
]

const keys = useKeyChoices()
const hints = computed(() => keys.hints(['vault', 'everywhere']))

const presets = computed(() => vault.vault?.presets ?? [])
const rowAt = (index: number) => presets.value[index]
const preset = computed(() => presets.value[cursor.value])
watch(presets, () => {
  cursor.value = Math.min(cursor.value, Math.max(0, presets.value.length - 1))
})

function play(pressedAt?: number): void {
  if (!preset.value) return
  void player.play({ url: `/api/vault/${encodeURIComponent(preset.value.id)}/preview?revision=${preset.value.revision}`, title: `${preset.value.name}, preview`, row: null }, pressedAt)
}

function goTo(index: number, pressedAt: number): void {
  cursor.value = Math.max(0, Math.min(presets.value.length - 1, index))
  play(pressedAt)
}

async function open(revision?: number): Promise<void> {
  const chosen = preset.value
  if (!chosen) return
  const done = await saying(() => kit.openPreset(chosen.id, revision).then(() => true))
  if (done) await navigateTo('/bench')
}

async function rename(): Promise<void> {
  const chosen = preset.value
  const name = chosen && await askName({ title: `Rename "${chosen.name}"`, does: 'Rename this preset', value: chosen.name, of: 'preset' })
  if (name && chosen) await saying(() => vault.rename(chosen.id, name))
}

async function duplicate(): Promise<void> {
  const chosen = preset.value
  const name = chosen && await askName({ title: `Duplicate "${chosen.name}"`, does: `Copy ${counted(chosen.samples, 'sample')} into a new preset`, value: `${chosen.name} copy`, of: 'preset' })
  if (!name || !chosen) return
  const stored = await saying(() => vault.duplicate(chosen.id, name))
  if (stored) say(`"${stored.name}" is in the vault.`)
}

async function remove(): Promise<void> {
  const chosen = preset.value
  if (!chosen) return
  const sure = await ElMessageBox.confirm('It stays in the bin until that is emptied.', `Move "${chosen.name}" to the bin?`, { confirmButtonText: `Move ${counted(chosen.revisions, 'revision')} to the bin`, cancelButtonText: 'Keep it' }).catch(() => undefined)
  if (sure) await saying(() => vault.remove(chosen.id))
}

function exportPackage(): void {
  if (!preset.value) return
  downloadUrl(`/api/vault/${encodeURIComponent(preset.value.id)}/package`)
  say(`"${preset.value.name}" is being written as one .zip.`)
}

async function importFiles(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  for (const file of [...input.files ?? []]) await saying(() => importOne(file))
  input.value = ''
}

async function importOne(file: File): Promise<void> {
  let imported = await vault.importFile(file)
  if (imported.state === 'name-taken') {
    const { archive, name } = imported
    const answer = await ElMessageBox.confirm('The preset that is there stays as it is.', `There is a preset named "${name}" already`, {
      confirmButtonText: 'Import under another name', cancelButtonText: `Make it the next revision of "${name}"`, distinguishCancelAndClose: true,
    }).then(() => 'rename' as const, (action: unknown) => action === 'cancel' ? 'revision' as const : 'give-up' as const)
    const then = await vault.importAs(archive, answer)
    if (!then) return
    imported = then
  }
  if (imported.state === 'imported') {
    const { name, presetId, revision } = imported
    await vault.load()
    cursor.value = Math.max(0, presets.value.findIndex(candidate => candidate.id === presetId))
    say(`"${name}", revision ${revision}, was imported and checked.`)
  }
  else sayError(new Error(`"${imported.name}" is still taken. Nothing was imported.`))
}

useCommands('vault', {
  presetNext: event => goTo(cursor.value + 1, event.timeStamp),
  presetPrevious: event => goTo(cursor.value - 1, event.timeStamp),
  presetPlay: event => play(event.timeStamp),
  presetOpen: () => void open(),
  presetRename: () => void rename(),
  presetDuplicate: () => void duplicate(),
  presetExport: () => exportPackage(),
  presetImport: () => chooser.value?.click(),
  presetDelete: () => void remove(),
})

function press(index: number, event: MouseEvent): void {
  table.value?.focus()
  goTo(index, event.timeStamp)
}

useFirstFocus(table)
</script>

<template>
  <div class="view">
    <header class="bar">
      <h1 class="visually-hidden">
        Vault
      </h1>
      <el-button :disabled="!preset" type="primary" @click="open()">
        Open on the bench
      </el-button>
      <el-button :disabled="!preset" @click="play()">
        Play preview
      </el-button>
      <el-button :disabled="!preset" @click="exportPackage">
        Export as .zip
      </el-button>
      <el-button :disabled="!preset" @click="rename">
        Rename…
      </el-button>
      <el-button :disabled="!preset" @click="duplicate">
        Duplicate…
      </el-button>
      <el-button :disabled="!preset" @click="remove">
        Delete…
      </el-button>
      <div class="spacer" />
      <el-button @click="chooser?.click()">
        Import…
      </el-button>
      <el-button @click="binOpen = true">
        Bin <span class="figure">&nbsp;{{ whole(vault.bin.length) }}</span>
      </el-button>
      <input ref="chooser" type="file" accept=".zip" multiple class="visually-hidden" tabindex="-1" aria-label="Kit packages to import" @change="importFiles">
    </header>
    <div v-if="vault.vault && presets.length === 0" class="empty">
      <h1>Nothing stored yet</h1>
      <p>Store a kit from the Bench: it comes here with its own copies of its samples, and plays even when the sources are gone. Or import a kit package.</p>
      <el-button type="primary" @click="navigateTo('/bench')">
        Go to the Bench (pad {{ padLabel(kit.padIndex) }} is at hand)
      </el-button>
      <el-button @click="chooser?.click()">
        Import a kit package…
      </el-button>
    </div>
    <div v-else-if="vault.vault" class="work">
      <div class="list">
        <LedgerTable ref="table" label="Presets" :columns="columns" :total="presets.length" :row-at="rowAt" :cursor="cursor" @press="press" @open="open()">
          <template #cell="{ column, row }">
            <span v-if="column === 'name'" class="cut" :title="row.name"><strong>{{ row.name }}</strong><span v-if="row.type !== 'kit'" class="quiet"> · {{ row.type }}</span><span v-if="row.problem" class="lost"> · {{ row.problem }}</span></span>
            <span v-else-if="column === 'pads'" class="figure">{{ row.pads }}</span>
            <span v-else-if="column === 'samples'" class="figure">{{ row.samples }}</span>
            <span v-else-if="column === 'size'" class="figure">{{ megabytes(row.bytes) }}</span>
            <span v-else-if="column === 'revision'" class="figure">{{ row.revision }}</span>
            <span v-else class="quiet">{{ moment(row.storedAt) }}</span>
          </template>
        </LedgerTable>
        <p class="quiet where">
          {{ vault.vault.path }}<template v-if="vault.vault.others > 0">
            · {{ counted(vault.vault.others, 'thing') }} here that {{ vault.vault.others === 1 ? 'is no preset' : 'are no presets' }}
          </template>
        </p>
      </div>
      <PresetDetail v-if="preset" :preset="preset" :vault-path="vault.vault.path" @open="open" />
    </div>
    <FootLine :hints="hints" />
    <BinDialog v-model="binOpen" />
  </div>
</template>

<style scoped>
.work { display: flex; flex: 1; min-height: 0; }
.list { flex: 1; display: flex; flex-direction: column; min-width: 0; }
.bar { flex-wrap: wrap; }
.where { margin: 0; padding: 4px 12px; font-size: 12px; overflow-wrap: anywhere; }
</style>
