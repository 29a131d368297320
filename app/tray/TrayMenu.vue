<script setup lang="ts">
import { trayRoutes } from '~~/contract/tray'
import { addressOf } from '~~/contract/endpoint'
import { MoreFilled } from '@element-plus/icons-vue'
import { askName } from '../parts/useAskName'
import { listed } from '~~/core/wording'
import { counted, whole } from '../parts/useFormat'
import { say, sayError, saying } from '../parts/useSay'
import { useKit, usePlacing } from '../bench'
import { useTray } from './tray'

/** The trays by name, and what can be done with the one in hand as a whole. */
const tray = useTray()
const kit = useKit()
const placing = usePlacing()
const copyOpen = ref(false)
const QUESTION = { text: 'Name of the tray', does: 'Save', of: 'tray' } as const

const chosen = computed({
  get: () => tray.tray?.id ?? 0,
  set: id => void saying(() => tray.open(id)),
})

async function create(): Promise<void> {
  const name = await askName({ title: 'A new tray', ...QUESTION, value: '' })
  if (name) await saying(() => tray.create(name))
}

async function rename(): Promise<void> {
  const name = await askName({ title: 'Rename this tray', ...QUESTION, value: tray.tray?.name ?? '' })
  if (name) await saying(() => tray.rename(name))
}

async function remove(): Promise<void> {
  const yes = await ElMessageBox.confirm(`Delete "${tray.tray?.name}" with ${counted(tray.items.length, 'sound')}? The sounds stay in the library.`, 'Delete this tray', { confirmButtonText: 'Delete', cancelButtonText: 'Cancel', type: 'warning' }).then(() => true, () => false)
  if (yes) await saying(() => tray.removeTray())
}

/** Makes a new kit of all that lies on the tray. */
async function toNewKit(): Promise<void> {
  await saying(async () => {
    await kit.create()
    kit.placeFitting(tray.sounds)
    await navigateTo('/bench')
  })
}

function toPads(): void {
  kit.placeFitting(tray.sounds)
}

async function copyInto(folder: string): Promise<void> {
  copyOpen.value = false
  const copied = await saying(() => tray.copyInto(folder))
  if (!copied) return
  if (copied.missing.length > 0) sayError(new Error(`${counted(copied.copied, 'sound')} copied into ${copied.folder}. Not copied, as their files are gone or can't be read: ${listed(copied.missing, 5)}.`))
  else say(`${counted(copied.copied, 'sound')} copied into ${copied.folder}.`)
}

function run(command: () => unknown): void {
  void command()
}
</script>

<template>
  <el-select v-model="chosen" size="small" aria-label="Current tray" class="trays">
    <el-option v-for="one in tray.trays" :key="one.id" :value="one.id" :label="`${one.name} · ${one.id === tray.tray?.id ? tray.items.length : one.count}`">
      <span class="choice"><span class="cut">{{ one.name }}</span><span class="figure quiet">{{ whole(one.count) }}</span></span>
    </el-option>
  </el-select>
  <el-dropdown trigger="click" :persistent="false" @command="run">
    <el-button size="small" :icon="MoreFilled" aria-label="Tray menu" />
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item :command="toPads" :disabled="tray.items.length === 0">
          Place all on free pads by kind
        </el-dropdown-item>
        <el-dropdown-item :command="() => placing.open(tray.chosen.size > 0 ? tray.chosenRows : tray.sounds)" :disabled="tray.items.length === 0">
          Place {{ tray.chosen.size > 0 ? 'selected sounds' : 'all' }} on pads…
        </el-dropdown-item>
        <el-dropdown-item :command="toNewKit" :disabled="tray.items.length === 0">
          Create a kit from them
        </el-dropdown-item>
        <el-dropdown-item :command="() => (copyOpen = true)" :disabled="tray.items.length === 0">
          Copy to a folder…
        </el-dropdown-item>
        <el-dropdown-item :disabled="tray.items.length === 0">
          <a :href="tray.tray && addressOf(trayRoutes.asText, { params: { id: tray.tray.id } })" download>Export list as text</a>
        </el-dropdown-item>
        <el-dropdown-item divided :command="create">
          New tray…
        </el-dropdown-item>
        <el-dropdown-item :command="rename">
          Rename this tray…
        </el-dropdown-item>
        <el-dropdown-item :command="remove">
          Delete this tray…
        </el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
  <CopyDialog v-model="copyOpen" @copy="copyInto" />
</template>

<style scoped>
.trays { flex: 1; min-width: 0; margin-right: 4px; }
.choice { display: flex; gap: 12px; justify-content: space-between; }
a { color: inherit; text-decoration: none; }
</style>
