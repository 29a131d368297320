<script setup lang="ts">
import { padLabel } from '~~/core/formats/sfz/write'
import { MOST_PADS, PADS_PER_BANK } from '~~/core/kit/document'
import { addBank, clearPads, removeLastBank, renameKit, swapPads } from '~~/core/kit/edits'
import { counted } from '../composables/useFormat'
import { useFirstFocus } from '../composables/useFirstFocus'
import { useKeys } from '../composables/useKeys'
import { midiInputs, midiState } from '../composables/useMidiInput'
import { usePadKeys } from '../composables/usePadKeys'
import { saying } from '../composables/useSay'
import { useKit } from '../stores/kit'

const kit = useKit()
const sheet = useTemplateRef<{ focus: () => void }>('sheet')
const storeOpen = ref(false)
const kitsOpen = ref(false)
usePadKeys()

const banks = computed(() => Array.from({ length: kit.kit.pads.length / PADS_PER_BANK }, (_, i) => String.fromCharCode(65 + i)))

const hints = [
  { keys: ['A–K', 'Z–,'], does: 'play (Shift: hard)' },
  { keys: ['↑', '↓'], does: 'pad' },
  { keys: ['Shift ↑↓'], does: 'choose several' },
  { keys: ['Space'], does: 'play pad' },
  { keys: ['Alt ↑↓'], does: 'move pad' },
  { keys: ['PgUp', 'PgDn'], does: 'bank' },
  { keys: ['Enter', 'Esc'], does: 'settings, back' },
  { keys: ['Del'], does: 'clear' },
  { keys: ['Ctrl Z', 'Ctrl Y'], does: 'undo, redo' },
  { keys: ['Ctrl S'], does: 'store' },
  { keys: ['T'], does: 'tray' },
]

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

function withControl(event: KeyboardEvent): boolean {
  const key = event.key.toLowerCase()
  if (key === 'z' && !event.shiftKey) kit.undo()
  else if (key === 'y' || (key === 'z' && event.shiftKey)) kit.redo()
  else if (key === 's') storeOpen.value = true
  else return false
  return true
}

useFirstFocus(sheet)

useKeys((event) => {
  if (event.ctrlKey || event.metaKey) return withControl(event)
  const step = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  if (step !== undefined) {
    if (event.altKey) move(step)
    else kit.select(kit.padIndex + step, event.shiftKey ? 'extend' : 'alone')
    return true
  }
  if (event.altKey) return false
  switch (event.key) {
    case 'PageDown':
      toBank(Math.min(banks.value.length - 1, kit.bank + 1))
      return true
    case 'PageUp':
      toBank(Math.max(0, kit.bank - 1))
      return true
    case ' ':
      kit.playPad(kit.padIndex, 100)
      return true
    case 'Enter':
      focusInspector()
      return true
    case 'Delete':
      clear()
      return true
    case 'Escape':
      kit.select(kit.padIndex)
      kit.stopAll()
      return true
    default:
      return false
  }
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
