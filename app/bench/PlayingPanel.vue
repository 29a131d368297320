<script setup lang="ts">
import { noteLabel } from '~~/core/audio/notes'
import { MOST_OCTAVES } from '~~/core/kit/octaves'
import { padLabel } from '~~/core/kit/padLabel'
import { curved, learning, midiInputs, midiState } from './useMidiInput'
import { PAD_LETTERS } from '../parts/keys/padLetters'
import { useKit } from './kit'
import { useSettings, type VelocityCurve } from '../parts/settings'

/** How the kit is played: velocities of keys, mouse and MIDI, the device that is listened to, notes learnt by hitting them. */
const kit = useKit()
const settings = useSettings()
const CURVES: readonly VelocityCurve[] = ['softer', 'as played', 'harder']
const SAID = { on: 'No MIDI input. Connect one: it is found at once.', off: 'Opening MIDI.', refused: 'The browser blocks MIDI. Allow it in the site settings (left of the address), then reload.', absent: 'This browser does not support MIDI.' }

function set(change: Partial<typeof settings.playing>): void {
  settings.playing = { ...settings.playing, ...change }
}
const curve = computed(() => Array.from({ length: 33 }, (_, i) => `${i / 32 * 100},${60 - curved(Math.max(1, Math.round(i / 32 * 127)), settings.playing.curve) / 127 * 56}`).join(' '))
</script>

<template>
  <div class="playing">
    <section>
      <h3>Computer keys and mouse</h3>
      <p class="quiet">
        <kbd>{{ PAD_LETTERS[0] }}</kbd> to <kbd>{{ PAD_LETTERS.at(-1) }}</kbd> play the pads of the current bank; with Shift at velocity 127. <kbd>PgUp</kbd> and <kbd>PgDn</kbd> go to another bank, <kbd>[</kbd> and <kbd>]</kbd> play softer and harder, <kbd>{</kbd> and <kbd>}</kbd> shift these keys and MIDI by an octave.
      </p>
      <NumberField label="Velocity" :digits="0" :values="[settings.playing.velocity]" :min="1" :max="127" :step="1" :reset="100" @set="set({ velocity: Math.round($event) })" @move="set({ velocity: Math.max(1, Math.min(127, settings.playing.velocity + $event)) })" />
      <NumberField label="Octave shift" :digits="0" :values="[settings.playing.octaves]" :min="-MOST_OCTAVES" :max="MOST_OCTAVES" :step="1" :reset="0" @set="set({ octaves: Math.round($event) })" @move="set({ octaves: Math.max(-MOST_OCTAVES, Math.min(MOST_OCTAVES, Math.round(settings.playing.octaves + $event))) })" />
      <label class="choice"><el-switch size="small" :model-value="settings.playing.isFixed" aria-label="The mouse plays at this velocity too" @update:model-value="set({ isFixed: Boolean($event) })" /> The mouse plays at this velocity too, wherever a pad is pressed</label>
    </section>
    <section>
      <h3>MIDI</h3>
      <p v-if="midiInputs.length === 0" class="quiet" role="status">
        {{ SAID[midiState] }}
      </p>
      <div v-else class="field">
        <span>Listen to</span>
        <el-select size="small" :model-value="settings.playing.input" aria-label="MIDI input" @update:model-value="set({ input: $event })">
          <el-option value="" label="all inputs" />
          <el-option v-for="name in midiInputs" :key="name" :value="name" :label="name" />
        </el-select>
      </div>
      <div class="field">
        <span>Velocities</span>
        <el-select size="small" :model-value="settings.playing.curve" aria-label="Velocity curve" @update:model-value="set({ curve: $event })">
          <el-option v-for="name in CURVES" :key="name" :value="name" :label="name" />
        </el-select>
      </div>
      <el-button size="small" @click="learning = learning === undefined ? kit.padIndex : undefined">
        {{ learning === undefined ? `Learn the note of ${padLabel(kit.padIndex)}` : `Waiting for a key for ${padLabel(learning)}: cancel` }}
      </el-button>
      <span class="figure quiet">now {{ noteLabel(kit.pad.note, settings.middleC) }}</span>
    </section>
    <svg class="curve" viewBox="0 0 100 60" role="img" aria-label="Output velocity by input velocity">
      <polyline :points="curve" />
    </svg>
  </div>
</template>

<style scoped>
.playing { display: grid; grid-template-columns: 1fr 1fr 120px; gap: 20px; padding: 6px 12px; overflow-y: auto; font-size: 12px; }
h3 { margin: 0 0 4px; font-size: 13px; }
p { margin: 0 0 6px; }
.field { display: grid; grid-template-columns: 70px minmax(0, 180px); align-items: center; gap: 6px; min-height: 28px; }
.choice { display: flex; align-items: center; gap: 6px; }
.curve { width: 120px; height: 72px; border: 1px solid var(--rule); background: var(--sheet); }
.curve polyline { fill: none; stroke: var(--accent); stroke-width: 1.5; }
</style>
