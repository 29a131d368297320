<script setup lang="ts">
import { padLabel } from '~~/core/kit/padLabel'
import { MOST_PADS, PADS_PER_BANK } from '~~/core/kit/document'
import { addBank, clearPads, removeLastBank, renameKit, swapPads } from '~~/core/kit/edits'
import { counted } from '../composables/useFormat'
import { useFirstFocus } from '../composables/useFirstFocus'
import { useCommands } from '../composables/useCommands'
import { midiInputs, midiState } from '../composables/useMidiInput'
import { usePadLikes } from '../composables/usePadLikes'
import { usePadKeys } from '../composables/usePadKeys'
import { saying } from '../composables/useSay'
import { useKeyChoices } from '../stores/keys'
import { useKit } from '../stores/kit'

const kit = useKit()
const sheet = useTemplateRef<{ focus: () => void }>('sheet')
const storeOpen = ref(false)
const kitsOpen = ref(false)
const findLikes = usePadLikes()
usePadKeys()

const banks = computed(() => Array.from({ length: kit.kit.pads.length / PADS_PER_BANK }, (_, i) => String.fromCharCode(65 + i)))

const keys = useKeyChoices()
const hints = computed(() => [{ keys: ['A–K', 'Z–,'], does: 'play (Shift: hard)' }, ...keys.hints(['bench', 'everywhere'])])

const midi = computed(() => {
  if (midiInputs.value.length > 0) return `MIDI: ${midiInputs.value.join(', ')}`
  return { on: 'No MIDI input connected', off: 'MIDI opens', refused: 'MIDI is not allowed in this browser', absent: 'This browser has no MIDI' }[midiState.value]
})

const saveText = computed(() => {
  if (kit.saveState === 'waiting') return 'Not saved yet: waits for the server'
  if (kit.saveState === 'saving') return 'Saving'
  return kit.savedAt ? `Saved ${kit.savedAt.toLocaleTimeString('en-GB')}` : ''
})

function clear(): void {
  const pads = kit.editedPads.filter(index => kit.kit.pads[index]!.layers.length > 0)
  if (pads.length > 0) kit.edit(`Clear ${counted(pads.length, 'pad')}`, state => clearPads(state, pads))
}

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
  toBank(banks.value.length - 1)
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
  padPlay: () => kit.playPad(kit.padIndex, 100),
  padMoveDown: () => move(1),
  padMoveUp: () => move(-1),
  bankNext: () => toBank(Math.min(banks.value.length - 1, kit.bank + 1)),
  bankPrevious: () => toBank(Math.max(0, kit.bank - 1)),
  padSettings: focusInspector,
  padLike: () => void findLikes(),
  padClear: clear,
  kitUndo: () => kit.undo(),
  kitRedo: () => kit.redo(),
  kitStore: () => storeOpen.value = true,
  benchBack: () => {
    kit.select(kit.padIndex)
    kit.stopAll()
  },
})
</script>

<template>
  <div class="view">
    <DropZone />
    <header class="bar">
      <h1 class="visually-hidden">
        Bench
      </h1>
      <el-input :model-value="kit.kit.name" class="kit-name" maxlength="120" aria-label="Name of the kit" @update:model-value="$event && kit.edit('Rename the kit', state => renameKit(state, $event), 'kit-name')" />
      <el-button :disabled="!kit.canUndo" :title="kit.canUndo ? `Undo: ${kit.canUndo}` : 'Nothing to undo'" @click="kit.undo()">
        Undo
      </el-button>
      <el-button :disabled="!kit.canRedo" :title="kit.canRedo ? `Redo: ${kit.canRedo}` : 'Nothing to redo'" @click="kit.redo()">
        Redo
      </el-button>
      <span class="quiet save cut" :class="{ look: kit.saveState === 'waiting' }" role="status">{{ saveText }}</span>
      <div class="spacer" />
      <el-button @click="saying(kit.create)">
        New kit
      </el-button>
      <el-button @click="kitsOpen = true">
        Kits at work
      </el-button>
      <el-button type="primary" :disabled="kit.filledPads === 0" @click="storeOpen = true">
        Store…
      </el-button>
    </header>
    <div class="banks">
      <span class="quiet">Bank</span>
      <button v-for="(bank, i) in banks" :key="bank" type="button" class="bank" :class="{ here: i === kit.bank }" :aria-pressed="i === kit.bank" @click="toBank(i)">
        {{ bank }}
      </button>
      <el-button size="small" :disabled="kit.kit.pads.length >= MOST_PADS" @click="addOne">
        Add a bank
      </el-button>
      <el-button v-if="banks.length > 1" size="small" @click="kit.edit('Remove the last bank', removeLastBank)">
        Remove bank {{ banks.at(-1) }} if empty
      </el-button>
      <div class="spacer" />
      <span v-if="kit.missingSounds.length > 0" class="lost">{{ counted(kit.missingSounds.length, 'sample') }} missing: {{ kit.missingSounds[0]?.name }}</span>
      <span class="quiet cut">{{ midi }}</span>
    </div>
    <div class="work">
      <KitSheet ref="sheet" />
      <PadInspector @leave="sheet?.focus()" />
    </div>
    <FootLine :hints="hints" />
    <StoreDialog v-model="storeOpen" />
    <KitsDialog v-model="kitsOpen" />
  </div>
</template>

<style scoped>
.kit-name { width: 210px; }
.kit-name :deep(input) { font-weight: 600; }
.save { min-width: 0; font-size: 12px; }
.banks { display: flex; align-items: center; gap: 6px; padding: 4px 12px; border-bottom: 1px solid var(--rule); min-height: 34px; font-size: 12px; }
.bank { width: 26px; height: 24px; border: 1px solid transparent; background: none; color: var(--ink); font: 600 12px var(--figures); cursor: pointer; }
.bank.here { border-color: var(--accent); background: var(--at-hand); }
.work { display: flex; flex: 1; min-height: 0; }
</style>
