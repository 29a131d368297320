<script setup lang="ts">
import { MOST_PADS, PADS_PER_BANK } from '~~/core/kit/document'
import { removeLastBank } from '~~/core/kit/edits'
import { counted } from '../parts/useFormat'
import { saying } from '../parts/useSay'
import { midiInputs, midiState } from './useMidiInput'
import { useShownKit } from './useShownKit'
import { useKit } from './kit'
import { useStandIns } from './standIns'
import { useTargets } from '../fit'

/** The banks of the kit, what it is made for, and what it misses. */
const emit = defineEmits<{ go: [bank: number], add: [] }>()

const kit = useKit()
const targets = useTargets()
const { shown, bank: here } = useShownKit()

// Plain values: what an edit leaves as it was is not drawn again.
const banks = computed(() => shown.value.pads.length / PADS_PER_BANK)
const target = computed(() => kit.kit.target ?? NO_TARGET)
const missing = computed(() => kit.missingSounds.length === 0 ? '' : `${counted(kit.missingSounds.length, 'sample')} missing: ${kit.missingSounds[0]!.name}`)
const standIns = useStandIns()
const letter = (bank: number) => String.fromCharCode(65 + bank)

const midi = computed(() => {
  if (midiInputs.value.length > 0) return `MIDI: ${midiInputs.value.join(', ')}`
  return { on: 'No MIDI input: connect one', off: 'Opening MIDI', refused: 'Allow MIDI in the site settings', absent: 'No MIDI in this browser' }[midiState.value]
})

const NO_TARGET = 'none'

function setTarget(id: string): void {
  kit.edit('Target', state => ({ ...state, target: id === NO_TARGET ? null : id }))
}
</script>

<template>
  <div class="banks">
    <span class="quiet">Bank</span>
    <button v-for="bank in banks" :key="bank" type="button" class="bank" :class="{ here: bank - 1 === here }" :aria-pressed="bank - 1 === here" @click="emit('go', bank - 1)">
      {{ letter(bank - 1) }}
    </button>
    <el-button size="small" :disabled="banks * PADS_PER_BANK >= MOST_PADS" @click="emit('add')">
      Add a bank
    </el-button>
    <el-button v-if="banks > 1" size="small" @click="kit.edit('Remove the last bank', removeLastBank)">
      Remove bank {{ letter(banks - 1) }} if empty
    </el-button>
    <Deferred>
      <el-select size="small" class="target" :model-value="target" aria-label="Target of the kit" @update:model-value="setTarget">
        <el-option :value="NO_TARGET" label="No target" />
        <el-option v-for="one in targets.all" :key="one.id" :value="one.id" :label="one.name" />
      </el-select>
    </Deferred>
    <div class="spacer" />
    <template v-if="missing">
      <span class="lost cut">{{ missing }}</span>
      <el-button size="small" @click="saying(standIns.open)">
        Replace {{ kit.missingSounds.length === 1 ? 'it' : 'them' }}…
      </el-button>
    </template>
    <span class="quiet cut">{{ midi }}</span>
  </div>
</template>

<style scoped>
.banks { display: flex; align-items: center; gap: 6px; padding: 3px 12px; border-bottom: 1px solid var(--rule); min-height: 30px; font-size: 12px; }
.banks :deep(.el-button) { margin-left: 0; }
.bank { width: 26px; height: 24px; border: 1px solid transparent; background: none; color: var(--ink); font: 600 12px var(--figures); cursor: pointer; }
.bank.here { border-color: var(--accent); background: var(--at-hand); }
.target { width: 150px; }
</style>
