<script setup lang="ts">
import { usageOfKit } from '~~/core/fit/usage'
import { PADS_PER_BANK } from '~~/core/kit/document'
import { addBank, renameKit, swapPads } from '~~/core/kit/edits'
import { nextFreeNote } from '~~/core/kit/noteEdits'
import { MOST_OCTAVES } from '~~/core/kit/octaves'
import { padLabel } from '~~/core/kit/padLabel'
import { NO_FREE_NOTE } from '~~/core/kit/words'
import { counted } from '../parts/useFormat'
import { backToView, useFirstFocus } from '../parts/useFirstFocus'
import { useCommands } from '../parts/useCommands'
import { learning } from './useMidiInput'
import { usePadMenu } from './usePadMenu'
import { usePadKeys } from './usePadKeys'
import { say, saying } from '../parts/useSay'
import { useClip } from './clip'
import { useKeyChoices } from '../parts/keys/keys'
import { useKit } from './kit'
import { useSettings } from '../parts/settings'
import { useTargets } from '../fit'

const kit = useKit()
const clip = useClip()
const settings = useSettings()
const targets = useTargets()
const sheet = useTemplateRef<{ focus: () => void }>('sheet')
const finder = useTemplateRef<{ focus: () => void }>('finder')
const panel = useTemplateRef<{ next: () => void, close: () => void }>('panel')
const storeOpen = ref(false)
const kitsOpen = ref(false)
const newOpen = ref(false)
const presetsOpen = ref(false)
const { clear, toggle, findLikes, openMenu } = usePadMenu()
usePadKeys()

const name = computed(() => kit.kit.name)
const target = computed(() => targets.byId(kit.kit.target))
const usage = computed(() => target.value && usageOfKit(kit.kit, target.value))
const bankCount = computed(() => kit.kit.pads.length / PADS_PER_BANK)
const isEmpty = computed(() => kit.filledPads === 0)

const keys = useKeyChoices()
const hints = computed(() => [{ keys: ['A–K', 'Z–,'], does: 'play (Shift: hard)' }, ...keys.hints(['padSettings', 'panelNext', 'kitUndo', 'kitStore', 'keys'])])

function move(step: number): void {
  const from = kit.padIndex
  const to = from + step
  if (to < 0 || to >= kit.kit.pads.length) return
  kit.edit(`Move pad ${padLabel(from)} to ${padLabel(to)}`, state => swapPads(state, from, to))
  kit.select(to)
}

function toBank(bank: number): void {
  kit.select(bank * PADS_PER_BANK + kit.padIndex % PADS_PER_BANK)
}

function addOne(): void {
  kit.edit('Add a bank', addBank)
  toBank(bankCount.value - 1)
}

function toFreeNote(): void {
  const free = nextFreeNote(kit.kit, kit.pad.note)
  const index = free === undefined ? -1 : kit.kit.pads.findIndex(pad => pad.note === free)
  if (index >= 0) kit.select(index)
  else say(free === undefined ? NO_FREE_NOTE : `Note ${free} is free, and no pad has it yet: add a bank, or give it to a pad.`)
}

function louder(step: number): void {
  const velocity = Math.max(1, Math.min(127, settings.playing.velocity + step))
  settings.playing = { ...settings.playing, velocity }
  say(`Keys play at velocity ${velocity}.`)
}

function shiftOctaves(step: number): void {
  const octaves = Math.max(-MOST_OCTAVES, Math.min(MOST_OCTAVES, settings.playing.octaves + step))
  settings.playing = { ...settings.playing, octaves }
  say(octaves === 0 ? 'Keys and MIDI play at their own octave.' : `Keys and MIDI play ${counted(Math.abs(octaves), 'octave')} ${octaves > 0 ? 'higher' : 'lower'}.`)
}

function focusInspector(): void {
  document.querySelector<HTMLElement>('.inspector input')?.focus()
}

useFirstFocus(sheet)

useCommands('bench', {
  padNext: () => kit.select(kit.padIndex + 1),
  padPrevious: () => kit.select(kit.padIndex - 1),
  padExtendNext: () => kit.select(kit.padIndex + 1, 'extend'),
  padExtendPrevious: () => kit.select(kit.padIndex - 1, 'extend'),
  padPlay: () => kit.playPad(kit.padIndex, settings.playing.velocity),
  padMoveDown: () => move(1),
  padMoveUp: () => move(-1),
  bankNext: () => toBank(Math.min(bankCount.value - 1, kit.bank + 1)),
  bankPrevious: () => toBank(Math.max(0, kit.bank - 1)),
  padSettings: focusInspector,
  padLike: () => void findLikes(),
  padClear: clear,
  padMenu: () => openMenu(document.getElementById(`pad-${kit.padIndex}`), kit.padIndex),
  padMute: () => toggle('muted'),
  padSolo: () => toggle('soloed'),
  padHold: () => toggle('held'),
  padCopy: clip.copy,
  padCut: clip.cut,
  padPaste: clip.paste,
  padPasteSettings: clip.pasteOnlySettings,
  padDuplicate: clip.duplicate,
  padSwap: clip.swap,
  chooseBank: () => kit.chooseFilled(),
  freeNote: toFreeNote,
  softer: () => louder(-10),
  harder: () => louder(10),
  octaveDown: () => shiftOctaves(-1),
  octaveUp: () => shiftOctaves(1),
  padFind: () => finder.value?.focus(),
  learnNote: () => {
    learning.value = learning.value === undefined ? kit.padIndex : undefined
    say(learning.value === undefined ? 'No note is taken.' : `Hit a key on the MIDI keyboard for ${padLabel(kit.padIndex)}.`)
  },
  panelNext: () => panel.value?.next(),
  panelClose: () => panel.value?.close(),
  kitNew: () => newOpen.value = true,
  kitUndo: () => kit.undo(),
  kitRedo: () => kit.redo(),
  kitStore: () => storeOpen.value = true,
  benchBack: () => {
    kit.select(kit.padIndex)
    kit.stopAll()
    sheet.value?.focus()
  },
})
</script>

<template>
  <div class="view">
    <header class="bar">
      <h1 class="visually-hidden">
        Bench
      </h1>
      <el-input :model-value="name" class="kit-name" maxlength="120" aria-label="Name of the kit" @update:model-value="$event && kit.edit('Rename the kit', state => renameKit(state, $event), 'kit-name')" @keydown.enter="backToView" />
      <UndoButtons :key="kit.id" :of="kit" />
      <SaveState :of="kit" />
      <PadFinder ref="finder" />
      <div class="spacer" />
      <PadMenu @presets="presetsOpen = true" />
      <el-button @click="newOpen = true">
        New kit…
      </el-button>
      <el-button @click="kitsOpen = true">
        Open kits
      </el-button>
      <el-button type="primary" :disabled="isEmpty" @click="storeOpen = true">
        Store…
      </el-button>
    </header>
    <p v-if="kit.writtenBy !== null" class="newer look" role="status">
      Written by a newer Emporion (document version {{ kit.writtenBy }}): it can be viewed and played, but not edited.
      <el-button size="small" @click="saying(kit.copyToWorkOn)">
        Make a copy
      </el-button>
    </p>
    <BankBar @go="toBank" @add="addOne" />
    <FitMeters v-if="target" :target="target" :before="usage!" is-compact />
    <NoteRuler />
    <div class="work">
      <div class="left">
        <KitSheet ref="sheet" />
        <BenchPanel ref="panel" />
      </div>
      <PadInspector />
    </div>
    <FootLine :hints="hints" />
    <StoreDialog v-model="storeOpen" />
    <KitsDialog v-model="kitsOpen" />
    <NewKitDialog v-model="newOpen" />
    <PadPresetsDialog v-model="presetsOpen" />
    <StandInsDialog />
  </div>
</template>

<style scoped>
.kit-name { flex: 1 1 180px; min-width: 110px; max-width: 220px; }
.kit-name :deep(input) { font-weight: 600; }
.newer { display: flex; align-items: center; gap: 10px; margin: 0; padding: 4px 12px; border-bottom: 1px solid var(--rule); }
.work { display: flex; flex: 1; min-height: 0; }
.left { display: flex; flex-direction: column; flex: 1; min-width: 0; }
</style>
