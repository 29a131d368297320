<script setup lang="ts">
import { changeHits, placesOf, spreadVelocities, type Edited } from '~~/core/groove/edits'
import type { Hit, Pattern } from '~~/core/groove/document'
import { halvePattern, repeatPattern, reverseHits, rotateHits, stretchHits } from '~~/core/groove/transform'
import type { QuantizeOptions } from '~~/core/groove/quantize'
import { usePatternActions } from './usePatternActions'
import { counted } from '../parts/useFormat'
import { outputDelayMs } from '../sound'
import { saying } from '../parts/useSay'
import { useGrooves } from './grooves'
import { useRecording } from './recording'
import { useSettings, type GrooveChoice } from '../parts/settings'

/** Quantizing, what is done to chosen hits, and how is recorded. */
const grooves = useGrooves()
const recording = useRecording()
const settings = useSettings()
const actions = usePatternActions()

const meant = computed(() => {
  if (grooves.chosen.size > 0) return `${counted(grooves.chosen.size, 'chosen hit')}`
  return `the current row, ${counted(actions.chosenOrRow().size, 'hit')}`
})

function set(change: Partial<GrooveChoice>): void {
  settings.groove = { ...settings.groove, ...change }
}
function setQuantize(change: Partial<Omit<QuantizeOptions, 'grid'>>): void {
  set({ quantize: { ...settings.groove.quantize, ...change } })
}
const PERCENTS = [
  { key: 'strengthPercent', label: 'Strength', min: 0, max: 100, reset: 100 },
  { key: 'windowPercent', label: 'Window', min: 0, max: 100, reset: 100 },
  { key: 'swingPercent', label: 'Swing of the grid', min: 50, max: 75, reset: 50 },
] as const
const clamp = (value: number, low: number, high: number) => Math.max(low, Math.min(high, value))

function on(label: string, change: (pattern: Pattern, hits: ReadonlySet<Hit>) => Edited): void {
  const hits = actions.chosenOrRow()
  grooves.edit(`${label} ${counted(hits.size, 'hit')}`, pattern => change(pattern, hits))
}
/** Of the hits that are meant those whose pads have alternates, with the value that each pad has chosen. */
const withAlternates = computed(() => placesOf(grooves.pattern, actions.chosenOrRow()).flatMap(({ part, hit }) => {
  const own = grooves.joined.pads[grooves.assignment.get(part.id) ?? -1]?.alternate ?? null
  return own === null ? [] : [{ hit, own }]
}))

function setAlternate(valueOf: (now: number) => number | undefined, gesture: string): void {
  const owns = new Map(withAlternates.value.map(({ hit, own }) => [hit, own]))
  grooves.edit(`Alternate of ${counted(owns.size, 'hit')}`, pattern => changeHits(pattern, new Set(owns.keys()), (hit) => {
    const { alternate, ...rest } = hit
    const value = valueOf(alternate ?? owns.get(hit) ?? 0)
    return value === undefined ? rest : { ...rest, alternate: clamp(Math.round(value), 0, 127) }
  }), gesture)
}

const step = () => grooves.stepTicks
const outputMs = ref<number>()
onMounted(() => outputMs.value = Math.round(outputDelayMs()))
</script>

<template>
  <div class="edit">
    <h3>Quantize {{ meant }}</h3>
    <NumberField v-for="field in PERCENTS" :key="field.key" :label="field.label" unit="%" :digits="field.key === 'swingPercent' ? 1 : 0" :values="[settings.groove.quantize[field.key]]" :min="field.min" :max="field.max" :step="field.key === 'swingPercent' ? 0.5 : 5" :reset="field.reset" @set="setQuantize({ [field.key]: $event })" @move="setQuantize({ [field.key]: clamp(settings.groove.quantize[field.key] + $event, field.min, field.max) })" />
    <p class="acts">
      <el-button size="small" type="primary" @click="actions.quantizeChosen()">
        To {{ `1/${settings.groove.grid.value}` }}{{ settings.groove.grid.feel === 'straight' ? '' : ` ${settings.groove.grid.feel}` }}
      </el-button>
      <el-button size="small" @click="actions.asPlayedChosen()">
        As played
      </el-button>
    </p>
    <h3>Velocities</h3>
    <p class="acts">
      <el-button size="small" @click="on('Even out', (pattern, hits) => spreadVelocities(pattern, hits, 0.7))">
        Closer
      </el-button>
      <el-button size="small" @click="on('Spread', (pattern, hits) => spreadVelocities(pattern, hits, 1.4))">
        Wider
      </el-button>
      <el-button size="small" @click="on('One velocity for', (pattern, hits) => spreadVelocities(pattern, hits, 0))">
        Equal
      </el-button>
    </p>
    <template v-if="withAlternates.length > 0">
      <h3>Alternate of {{ counted(withAlternates.length, 'hit') }}</h3>
      <NumberField label="Value" :digits="0" :values="withAlternates.map(({ hit, own }) => hit.alternate ?? own)" :min="0" :max="127" :step="1" @set="(value, gesture) => setAlternate(() => value, gesture)" @move="(by, gesture) => setAlternate(now => now + by, gesture)" />
      <p class="acts">
        <el-button size="small" @click="setAlternate(() => undefined, 'own')">
          The pad's own
        </el-button>
      </p>
    </template>
    <h3>In time</h3>
    <p class="acts">
      <el-button size="small" title="Rotate by one step" @click="on('Turn round', (pattern, hits) => rotateHits(pattern, hits, -step()))">
        ← Rotate
      </el-button>
      <el-button size="small" title="Rotate by one step" @click="on('Turn round', (pattern, hits) => rotateHits(pattern, hits, step()))">
        Rotate →
      </el-button>
      <el-button size="small" @click="on('Reverse', reverseHits)">
        Reverse
      </el-button>
      <el-button size="small" @click="on('Half as fast', (pattern, hits) => stretchHits(pattern, hits, 2))">
        Half as fast
      </el-button>
      <el-button size="small" @click="on('Twice as fast', (pattern, hits) => stretchHits(pattern, hits, 0.5))">
        Twice as fast
      </el-button>
    </p>
    <p class="acts">
      <el-button size="small" @click="grooves.edit('Repeat the pattern', repeatPattern)">
        Pattern twice
      </el-button>
      <el-button size="small" @click="grooves.edit('Halve the pattern', halvePattern)">
        First half only
      </el-button>
      <el-button size="small" @click="actions.repeatBar()">
        Copy this bar to the next
      </el-button>
    </p>
    <h3>Recording</h3>
    <el-radio-group :model-value="settings.groove.records" size="small" aria-label="Recording mode" @update:model-value="set({ records: $event as GrooveChoice['records'] })">
      <el-radio value="overdub">add to existing hits</el-radio>
      <el-radio value="replace">replace existing hits</el-radio>
    </el-radio-group>
    <el-checkbox :model-value="settings.groove.quantizesIn" size="small" @update:model-value="set({ quantizesIn: Boolean($event) })">
      quantize while recording
    </el-checkbox>
    <NumberField label="Delay of the input" unit="ms" :digits="0" :values="[settings.groove.inputMs]" :min="-50" :max="250" :step="1" :reset="0" @set="set({ inputMs: Math.round($event) })" @move="set({ inputMs: clamp(settings.groove.inputMs + $event, -50, 250) })" />
    <p class="quiet">
      Subtracted together with the output delay<template v-if="outputMs !== undefined">
        (<span class="figure">{{ outputMs }} ms</span>)
      </template>, which is known.
    </p>
    <p class="acts">
      <el-button size="small" @click="saying(recording.measureInput)">
        {{ recording.taps ? (recording.measured === undefined ? 'End' : `Use ${recording.measured} ms`) : 'Measure: play along with the click' }}
      </el-button>
      <span v-if="recording.taps" class="quiet" role="status">{{ counted(recording.taps.length, 'tap') }}{{ recording.measured === undefined ? ', at least 4' : '' }}</span>
    </p>
  </div>
</template>

<style scoped>
.edit { padding: 6px 10px; overflow-y: auto; font-size: 12px; }
h3 { margin: 8px 0 3px; font-size: 13px; }
h3:first-child { margin-top: 0; }
p { margin: 2px 0; }
.acts { display: flex; flex-wrap: wrap; align-items: center; gap: 4px; }
.acts .el-button { margin: 0; }
.edit :deep(.el-radio) { margin-right: 12px; }
</style>
