<script setup lang="ts">
import { MOST_GROUPS, type Pad } from '~~/core/kit/document'
import { mapPads, setPads, type PadSettings } from '~~/core/kit/edits'
import { moveToNote, usualRange, withRange } from '~~/core/kit/noteEdits'
import { BOUNDS, nudgePads, numberOf, setNumber, type NumberSetting } from '~~/core/kit/nudge'
import { notANote } from '~~/core/kit/words'
import { noteLabel, noteName, parseNote } from '~~/core/audio/notes'
import { KINDS } from '~~/core/search/kinds'
import { counted, kilohertz, seconds } from '../parts/useFormat'
import { say } from '../parts/useSay'
import { usePadLikes } from './usePadLikes'
import { useKit } from './kit'
import { useSettings } from '../parts/settings'

/** Settings of the current pad, or of all chosen pads; it says which. */
const findLikes = usePadLikes()
const kit = useKit()
const settings = useSettings()
const isRelative = ref(false)

const pads = computed(() => kit.editedPads.map(index => kit.kit.pads[index]!))
const several = computed(() => pads.value.length > 1)
const layer = computed(() => kit.pad.layers[kit.layerIndex] ?? kit.pad.layers[0])

const title = computed(() => {
  if (several.value) return `${counted(pads.value.length, 'pad')} at once`
  const layers = kit.pad.layers.length
  const one = kit.pad.alternate === null ? 'layer' : 'alternate'
  return `${noteLabel(kit.pad.note, settings.middleC)} ${kit.pad.name || 'empty'}${layers > 1 ? `, ${one} ${kit.layerIndex + 1} of ${layers}` : ''}`
})

interface Line {
  readonly setting: NumberSetting
  readonly label: string
  readonly unit: string
  readonly step: number
  readonly reset?: number
  readonly digits?: number
  /** Shown so many times as large as it is kept. */
  readonly scale?: number
}
const LEVEL: readonly Line[] = [
  { setting: 'gainDb', label: 'Gain', unit: 'dB', step: 0.5, reset: 0 },
  { setting: 'pan', label: 'Pan', unit: '%', step: 0.05, reset: 0, digits: 0, scale: 100 },
  { setting: 'tuneCents', label: 'Tune', unit: 'ct', step: 10, reset: 0, digits: 0 },
  { setting: 'driveDb', label: 'Drive', unit: 'dB', step: 0.5, reset: 0 },
]
const ENVELOPE: readonly Line[] = [
  { setting: 'attackSeconds', label: 'Attack', unit: 'ms', step: 0.001, reset: 0, digits: 0, scale: 1000 },
  { setting: 'holdSeconds', label: 'Hold', unit: 'ms', step: 0.01, reset: 0, digits: 0, scale: 1000 },
]
const DECAY: Line = { setting: 'decaySeconds', label: 'Decay', unit: 'ms', step: 0.01, digits: 0, scale: 1000 }
const RELEASE: Line = { setting: 'releaseSeconds', label: 'Release', unit: 'ms', step: 0.01, reset: 0.01, digits: 0, scale: 1000 }
const FILTER: readonly Line[] = [
  { setting: 'cutoffHz', label: 'Cutoff', unit: 'Hz', step: 1 / 12, digits: 0 },
  { setting: 'resonanceDb', label: 'Resonance', unit: 'dB', step: 0.5, reset: 0 },
]
const VELOCITY: Line = { setting: 'velocityTrack', label: 'Velocity', unit: '%', step: 0.05, reset: 1, digits: 0, scale: 100 }
const RANGE: readonly Line[] = [
  { setting: 'lowNote', label: 'From note', unit: '', step: 1, digits: 0 },
  { setting: 'highNote', label: 'To note', unit: '', step: 1, digits: 0 },
  { setting: 'rootNote', label: 'Root note', unit: '', step: 1, digits: 0 },
  { setting: 'trackCents', label: 'Tracking', unit: 'ct', step: 10, reset: 100, digits: 0 },
]
const CHOKE_TIME: Line = { setting: 'chokeSeconds', label: 'Cut time', unit: 'ms', step: 0.01, reset: 0, digits: 0, scale: 1000 }
const FIRST_DECAY_SECONDS = 0.3
const FIRST_CUTOFF_HZ = 4000

const isNote = (setting: NumberSetting) => setting === 'lowNote' || setting === 'highNote' || setting === 'rootNote'

function field({ setting, label, unit, step, reset, digits, scale = 1 }: Line) {
  const { low, high, isRatio } = BOUNDS[setting]
  return {
    label, unit: isNote(setting) && !several.value ? noteName(numberOf(kit.pad, setting) ?? 0, settings.middleC) : unit, digits, step: isRatio ? step : step * scale, min: low * scale, max: high * scale, reset: reset === undefined ? undefined : reset * scale, isRelative: isRelative.value,
    values: pads.value.flatMap((pad) => {
      const value = numberOf(pad, setting)
      return value === undefined ? [] : [value * scale]
    }),
    onSet: (value: number, gesture: string) => edit(label, state => setNumber(state, kit.editedPads, setting, value / scale), gesture),
    onMove: (by: number, gesture: string) => edit(label, state => nudgePads(state, kit.editedPads, setting, isRatio ? by : by / scale), gesture),
  }
}

function what(): string {
  return several.value ? counted(pads.value.length, 'pad') : kit.pad.name || noteLabel(kit.pad.note, settings.middleC)
}

/** Edits of one gesture on the same pads are one step of undo. */
function edit(label: string, change: Parameters<typeof kit.edit>[1], gesture: string): void {
  kit.edit(`${label} of ${what()}`, change, `${gesture}:${kit.editedPads.join(',')}`)
}

function set(label: string, change: PadSettings): void {
  edit(label, state => setPads(state, kit.editedPads, change), label)
}

const valuesOf = <T>(of: (pad: Pad) => T) => pads.value.map(of)

type FilterType = NonNullable<Pad['filter']>['type']
const upTo = (count: number) => Array.from({ length: count }, (_, i) => i + 1)
const asNamed = <T extends string>(...values: T[]) => values.map(value => ({ value, label: value }))
const ROLES = KINDS.map(({ path, label }) => ({ value: path, label }))
const PLAYS = asNamed<Pad['play']>('one-shot', 'gated')
const FILTERS = asNamed<FilterType | 'none'>('none', 'low-pass', 'high-pass', 'band-pass')
const GROUPS = upTo(MOST_GROUPS).map(value => ({ value, label: `group ${value}` }))
const CHOKES = [{ value: 0, label: 'none' }, ...GROUPS]
const VOICES = [{ value: 0, label: 'as in kit' }, ...upTo(64).map(value => ({ value, label: String(value) }))]
const articulations = computed(() => [{ value: '', label: 'all' }, ...kit.kit.articulations.map(({ id, name }) => ({ value: id, label: name }))])
const spread = computed(() => pads.value.filter(pad => pad.range !== null).length)
const curves = computed(() => pads.value.filter(pad => pad.velocityCurve !== null))
const CUTS = ['own group', 'nothing', 'selected groups'] as const
type Cut = typeof CUTS[number]
const cutOf = ({ chokedBy }: Pad): Cut => chokedBy === null ? 'own group' : chokedBy.length === 0 ? 'nothing' : 'selected groups'
const outputs = computed(() => kit.kit.outputs.map(({ id, name }) => ({ value: id, label: name })))
const decaying = computed(() => pads.value.filter(pad => pad.envelope.decaySeconds !== null).length)

function setFilter(type: FilterType | 'none'): void {
  edit('Filter', state => mapPads(state, kit.editedPads, pad => ({ ...pad, filter: type === 'none' ? null : { cutoffHz: FIRST_CUTOFF_HZ, resonanceDb: 0, ...pad.filter, type } })), 'filter')
}

function setSpread(isOn: boolean): void {
  edit('Notes', state => mapPads(state, kit.editedPads, pad => withRange(pad, isOn ? pad.range ?? usualRange(pad) : null)), 'range')
}

function setCut(cut: Cut): void {
  edit('Cut by', state => mapPads(state, kit.editedPads, pad => ({ ...pad, chokedBy: cut === 'own group' ? null : cut === 'nothing' ? [] : [pad.chokeGroup ?? 1] })), 'chokedBy')
}

function setDecays(isOn: boolean): void {
  edit('Decay', state => mapPads(state, kit.editedPads, pad => ({ ...pad, envelope: { ...pad.envelope, decaySeconds: isOn ? pad.envelope.decaySeconds ?? FIRST_DECAY_SECONDS : null } })), 'decays')
}

const reversed = computed(() => pads.value.filter(pad => pad.layers.length > 0 && pad.layers.every(one => one.reverse)).length)
const filled = computed(() => pads.value.filter(pad => pad.layers.length > 0).length)
const isReverseMixed = computed(() => (reversed.value > 0 && reversed.value < filled.value) || pads.value.some(pad => pad.layers.some(one => one.reverse) && !pad.layers.every(one => one.reverse)))

function setReverse(isOn: boolean): void {
  edit('Reverse', state => mapPads(state, kit.editedPads, pad => ({ ...pad, layers: pad.layers.map(one => ({ ...one, reverse: isOn })) })), 'reverse')
}

const noteText = ref('')
watch(() => [kit.pad.note, kit.padIndex, settings.middleC], () => {
  noteText.value = noteLabel(kit.pad.note, settings.middleC)
}, { immediate: true })

function setNote(): void {
  const typed = noteText.value.includes('·') ? noteText.value.split('·')[0]! : noteText.value
  const note = parseNote(typed, settings.middleC)
  if (note === undefined) say(notANote(noteText.value))
  else if (note !== kit.pad.note) edit('Note', state => moveToNote(state, kit.padIndex, note), 'note')
  noteText.value = noteLabel(kit.pad.note, settings.middleC)
}
</script>

<template>
  <section class="inspector" aria-label="Settings of the current pad">
    <h2 class="cut" :title="title">
      {{ title }}
    </h2>
    <p v-if="layer && !several" class="figure quiet facts">
      {{ seconds(layer.sound.frames / layer.sound.sampleRate) }} · {{ kilohertz(layer.sound.sampleRate) }} · {{ layer.sound.channels === 1 ? 'mono' : 'stereo' }}
      <el-button size="small" text @click="findLikes">
        Find similar
      </el-button>
    </p>
    <p v-else-if="!several" class="quiet">
      No sound on this pad yet. Drag one here from the tray or the Library, or press <kbd>Enter</kbd> on one in the tray.
    </p>
    <el-radio-group v-if="several" v-model="isRelative" size="small" class="how" aria-label="Typed values">
      <el-radio-button :value="false">
        Set all to
      </el-radio-button>
      <el-radio-button :value="true">
        Move each by
      </el-radio-button>
    </el-radio-group>
    <div class="fields">
      <label v-if="!several" class="field"><span>Name</span>
        <el-input size="small" :model-value="kit.pad.name" maxlength="200" aria-label="Name" @update:model-value="set('Name', { name: $event })" />
      </label>
      <label v-if="!several" class="field"><span>Note</span>
        <el-input v-model="noteText" size="small" class="figure" aria-label="Note" @change="setNote" />
      </label>
      <NumberField v-else v-bind="field({ setting: 'note', label: 'Note', unit: '', step: 1, digits: 0 })" />
      <Deferred>
        <PadChoice label="Role" :values="valuesOf(pad => pad.role ?? '')" :options="ROLES" clearable filterable placeholder="none" @choose="role => set('Role', { role: role || null })" />
        <NumberField v-for="line in LEVEL" :key="line.setting" v-bind="field(line)" />
      </Deferred>
      <Deferred>
        <PadChoice label="Plays" :values="valuesOf(pad => pad.play)" :options="PLAYS" @choose="play => set('Playing', { play })" />
        <div v-if="filled > 0" class="field">
          <span>Reverse</span>
          <el-switch size="small" :model-value="reversed === filled" aria-label="Reverse" @update:model-value="setReverse(Boolean($event))" /><span v-if="isReverseMixed" class="look">mixed</span>
        </div>
        <NumberField v-for="line in ENVELOPE" :key="line.setting" v-bind="field(line)" />
        <div class="field">
          <span>Decays</span>
          <el-switch size="small" :model-value="decaying === pads.length" aria-label="Decays" @update:model-value="setDecays(Boolean($event))" /><span v-if="decaying > 0 && decaying < pads.length" class="look">mixed</span>
        </div>
        <NumberField v-if="decaying > 0" v-bind="field(DECAY)" />
        <NumberField v-if="pads.some(pad => pad.play === 'gated')" v-bind="field(RELEASE)" />
      </Deferred>
      <Deferred>
        <PadChoice label="Filter" :values="valuesOf(pad => pad.filter?.type ?? 'none')" :options="FILTERS" @choose="setFilter" />
        <template v-if="pads.some(pad => pad.filter !== null)">
          <NumberField v-for="line in FILTER" :key="line.setting" v-bind="field(line)" />
        </template>
      </Deferred>
      <Deferred>
        <div class="field">
          <span>Note range</span>
          <el-switch size="small" :model-value="spread === pads.length" aria-label="Note range" @update:model-value="setSpread(Boolean($event))" /><span v-if="spread > 0 && spread < pads.length" class="look">mixed</span>
        </div>
        <template v-if="spread > 0">
          <NumberField v-for="line in RANGE" :key="line.setting" v-bind="field(line)" />
        </template>
        <NumberField v-bind="field(VELOCITY)" />
        <div v-if="curves.length > 0" class="field">
          <span>Curve</span>
          <span class="figure quiet">{{ several ? counted(curves.length, 'pad') : counted(curves[0]!.velocityCurve!.length, 'point') }}</span>
          <el-button size="small" text @click="set('Velocity curve', { velocityCurve: null })">
            Reset
          </el-button>
        </div>
        <PadChoice v-if="kit.kit.articulations.length > 0" label="Articul." named="Articulation" :values="valuesOf(pad => pad.articulation ?? '')" :options="articulations" @choose="id => set('Articulation', { articulation: id || null })" />
      </Deferred>
      <Deferred>
        <PadChoice label="Choke" named="Choke group" :values="valuesOf(pad => pad.chokeGroup ?? 0)" :options="CHOKES" @choose="group => set('Choke group', { chokeGroup: group || null })" />
        <PadChoice label="Cut by" named="What cuts it off" :values="valuesOf(cutOf)" :options="asNamed(...CUTS)" @choose="setCut" />
        <div v-if="pads.some(pad => pad.chokedBy?.length)" class="field wide">
          <span />
          <el-select-v2 size="small" multiple collapse-tags :model-value="kit.pad.chokedBy ?? []" :options="GROUPS" aria-label="Groups that cut it off" placeholder="no group" @update:model-value="set('Cut by', { chokedBy: ($event as number[]).toSorted((a, b) => a - b) })" />
        </div>
        <NumberField v-if="pads.some(pad => pad.chokeGroup !== null || pad.chokedBy?.length)" v-bind="field(CHOKE_TIME)" />
        <PadChoice label="Voices" named="Voices of the pad at once" :values="valuesOf(pad => pad.polyphony ?? 0)" :options="VOICES" @choose="most => set('Voices', { polyphony: most || null })" />
        <PadChoice label="Output" :values="valuesOf(pad => pad.output)" :options="outputs" @choose="output => set('Output', { output })" />
        <label v-if="!several" class="field notes"><span>Notes</span>
          <el-input size="small" type="textarea" :rows="2" resize="none" :model-value="kit.pad.notes" maxlength="2000" aria-label="Notes" @update:model-value="set('Notes', { notes: $event })" />
        </label>
      </Deferred>
    </div>
  </section>
</template>

<style scoped>
.inspector { width: 216px; flex: none; padding: 8px 12px; border-left: 1px solid var(--rule); overflow-y: auto; }
h2 { margin-bottom: 4px; }
.facts { display: flex; flex-wrap: wrap; align-items: center; margin: 0 0 4px; font-size: 12px; white-space: normal; }
.how { margin: 4px 0 6px; }
.fields { display: grid; gap: 3px; font-size: 12px; }
.field { display: grid; grid-template-columns: 58px minmax(0, 1fr) auto; align-items: center; gap: 5px; min-height: 26px; }
.notes { align-items: start; }
.wide { grid-template-columns: 58px minmax(0, 1fr); }
</style>
