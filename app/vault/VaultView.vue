<script setup lang="ts">
import { vaultRoutes } from '~~/contract/vault'
import { addressOf } from '~~/contract/endpoint'
import { padLabel } from '~~/core/kit/padLabel'
import { presetExists } from '~~/core/kit/words'
import type { LedgerColumn } from '../parts/LedgerTable.vue'
import { askName } from '../parts/useAskName'
import { counted, megabytes, moment, whole } from '../parts/useFormat'
import { downloadUrl } from '../parts/useDownload'
import { useFirstFocus } from '../parts/useFirstFocus'
import { offerFile, usePlayer } from '../sound'
import { useCommands, type CommandHandlers } from '../parts/useCommands'
import { usePresetList } from './usePresetList'
import { say, saying, sayError } from '../parts/useSay'
import { useKeyChoices } from '../parts/keys/keys'
import { useDoors } from '../parts/doors'
import { useKit } from '../bench'
import { useMenu } from '../parts/menu'
import { useVault } from './vault'

const vault = useVault()
const kit = useKit()
const player = usePlayer()
const menu = useMenu()
const table = useTemplateRef<{ focus: () => void, rowElement: () => HTMLElement | null }>('table')
const finder = useTemplateRef<{ focus: () => void }>('finder')
const chooser = useTemplateRef<HTMLInputElement>('chooser')
const binOpen = ref(false)

const columns: readonly LedgerColumn[] = [
  { key: 'name', title: 'Preset', width: 150, grows: true, isSortable: true },
  { key: 'pads', title: 'Pads', width: 56, align: 'right', isSortable: true },
  { key: 'samples', title: 'Samples', width: 76, align: 'right', isSortable: true },
  { key: 'size', title: 'Size', width: 78, align: 'right', isSortable: true },
  { key: 'revision', title: 'Revision', width: 82, align: 'right', isSortable: true },
  { key: 'stored', title: 'Stored', width: 132, isSortable: true },
]

const PAGE = 16
const keys = useKeyChoices()
const hints = computed(() => keys.hints(['presetPlay', 'presetOpen', 'presetFind', 'presetRename', 'presetExport', 'keys']))

const presets = computed(() => vault.vault?.presets ?? [])
const { words, sortedBy, isDescending, cursor, found, atCursor: preset, moveTo, moveToId, sortBy } = usePresetList(() => presets.value)
const rowAt = (index: number) => found.value[index]

function play(pressedAt?: number): void {
  if (!preset.value) return
  void player.play({ url: addressOf(vaultRoutes.preview, { params: { id: preset.value.id }, query: { revision: preset.value.revision } }), title: `${preset.value.name}, preview`, row: null }, pressedAt)
}

function goTo(index: number, pressedAt: number): void {
  moveTo(index)
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
  const sure = await ElMessageBox.confirm('It stays in the bin until that is emptied.', `Move "${chosen.name}" to the bin?`, { confirmButtonText: `Move ${counted(chosen.revisions, 'revision')} to the bin`, cancelButtonText: 'Cancel' }).catch(() => undefined)
  if (sure) await saying(() => vault.remove(chosen.id))
}

function exportPackage(): void {
  if (!preset.value) return
  downloadUrl(packageUrl(preset.value.id))
  say(`"${preset.value.name}" is being written as one .zip.`)
}

async function importFiles(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  for (const file of [...input.files ?? []]) await saying(() => importOne(file))
  input.value = ''
}

const doors = useDoors()
const readOpen = ref(false)
watch(() => doors.kit, file => file && (readOpen.value = true), { immediate: true })

watch(() => doors.packages, async (files) => {
  if (files.length === 0) return
  doors.packages = []
  for (const file of files) await saying(() => importOne(file))
}, { immediate: true })

async function importOne(file: File): Promise<void> {
  let imported = await vault.importFile(file)
  if (imported.state === 'name-taken') {
    const { archive, name } = imported
    const answer = await ElMessageBox.confirm('The preset that is there stays as it is.', presetExists(name), {
      confirmButtonText: 'Import under another name', cancelButtonText: `Make it the next revision of "${name}"`, distinguishCancelAndClose: true,
    }).then(() => 'rename' as const, (action: unknown) => action === 'cancel' ? 'revision' as const : 'give-up' as const)
    const then = await vault.importAs(archive, answer)
    if (!then) return
    imported = then
  }
  if (imported.state === 'imported') {
    const { name, presetId, revision } = imported
    await vault.load()
    words.value = ''
    moveToId(presetId)
    say(`"${name}", revision ${revision}, was imported and checked.`)
  }
  else sayError(new Error(`"${imported.name}" is still taken. Nothing was imported.`))
}

const handlers: CommandHandlers = {
  presetMenu: () => openMenu(table.value?.rowElement()),
  presetNext: event => goTo(cursor.value + 1, event.timeStamp),
  presetPrevious: event => goTo(cursor.value - 1, event.timeStamp),
  presetFirst: event => goTo(0, event.timeStamp),
  presetLast: event => goTo(found.value.length - 1, event.timeStamp),
  presetPageNext: event => goTo(cursor.value + PAGE, event.timeStamp),
  presetPagePrevious: event => goTo(cursor.value - PAGE, event.timeStamp),
  presetFind: () => finder.value?.focus(),
  presetPlay: event => play(event.timeStamp),
  presetOpen: () => void open(),
  presetRename: () => void rename(),
  presetDuplicate: () => void duplicate(),
  presetExport: () => exportPackage(),
  presetImport: () => chooser.value?.click(),
  presetDelete: () => void remove(),
}
useCommands('vault', handlers)

function openMenu(at: Event | Element | null | undefined): void {
  if (preset.value) menu.open(at, preset.value.name, keys.items(['presetOpen', 'presetPlay', 'presetRename', 'presetDuplicate', 'presetExport', 'presetDelete'], handlers))
}

function menuAt(index: number, event: MouseEvent): void {
  event.preventDefault()
  moveTo(index)
  openMenu(event)
}

const packageUrl = (id: string) => addressOf(vaultRoutes.package, { params: { id } })

function dragOut(index: number, event: DragEvent): void {
  const row = found.value[index]
  if (row) offerFile(event, packageUrl(row.id), `${row.name}.zip`, 'application/zip')
}

function press(index: number, event: MouseEvent): void {
  table.value?.focus()
  goTo(index, event.timeStamp)
}

/** From the words into what they found, or back to all of it. */
function leaveFinder(event: KeyboardEvent | Event): void {
  if ('key' in event && event.key === 'Escape') words.value = ''
  table.value?.focus()
}

useFirstFocus(table)

// Led here to one preset: it becomes the current one, whatever words were left in the finder.
const route = useRoute()
watch([() => route.query.preset, presets], ([wanted]) => {
  if (typeof wanted !== 'string' || !presets.value.some(one => one.id === wanted)) return
  words.value = ''
  moveToId(wanted)
  void navigateTo({ path: '/vault', query: {} }, { replace: true })
}, { immediate: true })
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
        Go to the Bench (current pad: {{ padLabel(kit.padIndex) }})
      </el-button>
      <el-button @click="chooser?.click()">
        Import a kit package…
      </el-button>
    </div>
    <div v-else-if="vault.vault" class="work">
      <div class="list">
        <div class="find">
          <el-input ref="finder" v-model="words" size="small" clearable placeholder="Words of the name" aria-label="Find presets" class="words" @keydown.enter.prevent="leaveFinder" @keydown.down.prevent="leaveFinder" @keydown.esc.prevent="leaveFinder" />
          <span v-if="found.length < presets.length" class="quiet"><span class="figure">{{ whole(found.length) }}</span> of <span class="figure">{{ whole(presets.length) }}</span> presets are found.</span>
          <el-button v-if="found.length < presets.length" size="small" text @click="words = ''">
            Show all
          </el-button>
        </div>
        <LedgerTable ref="table" label="Presets" :columns="columns" :total="found.length" :row-at="rowAt" :cursor="cursor" :sorted-by="sortedBy" :is-descending="isDescending" draggable @sort="sortBy" @press="press" @open="open()" @menu="menuAt" @drag-row="dragOut">
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
    <ForeignDialog v-model="readOpen" v-model:file="doors.kit" @read="navigateTo({ path: '/vault', query: { preset: $event } }, { replace: true })" />
  </div>
</template>

<style scoped>
.work { display: flex; flex: 1; min-height: 0; }
.list { flex: 1; display: flex; flex-direction: column; min-width: 0; }
.bar { flex-wrap: wrap; }
.find { display: flex; align-items: center; gap: 8px; padding: 5px 6px; border-bottom: 1px solid var(--rule); }
.words { width: 220px; }
.where { margin: 0; padding: 4px 12px; font-size: 12px; overflow-wrap: anywhere; }
</style>
