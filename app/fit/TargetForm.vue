<script setup lang="ts">
import { PART_NAMES, type PartName } from '~~/core/formats/samples/naming'
import { FEATURES, slotsOf, targetSchema, WRITERS, type Feature, type Target, type Writer } from '~~/core/fit/target'
import { aboutTarget, depthWords, WRITER_NAMES } from '~~/core/fit/words'
import { SAMPLE_DEPTHS } from '~~/core/formats/write'

/** A target of the user's own: every limit as a field, checked as it is typed. */
const props = defineProps<{ target: Target, isNew: boolean }>()
const emit = defineEmits<{ save: [target: Target], leave: [] }>()

const MB = { MB: 1e6, MiB: 2 ** 20 }

const name = ref(props.target.name)
const id = ref(props.target.id)
/** Empty: the target describes itself by its limits. */
const about = ref(props.isNew || props.target.about === aboutTarget(props.target) ? '' : props.target.about)
const writes = ref<Writer>(props.target.writes)
const banks = ref(props.target.pads.banks)
const inBank = ref(props.target.pads.inBank)
const columns = ref(props.target.pads.columns)
const first = ref(props.target.notes.first)
const last = ref(props.target.notes.last)
const way = ref(props.target.notes.way)
const layers = ref(props.target.layers)
const turns = ref(props.target.turns)
const holds = ref<Feature[]>([...props.target.holds])
const chokeGroups = ref(props.target.chokeGroups)
const polyphony = ref(props.target.polyphony === null ? '' : String(props.target.polyphony))
const rates = ref(props.target.audio.rates.join(', '))
const highestRate = ref(props.target.audio.highestRate)
const depths = ref([...props.target.audio.depths])
const channels = ref(props.target.audio.channels)
const shares = ref(props.target.audio.shares)
const unit = ref(props.target.limits.unit)
const size = ref(props.target.limits.bytes === null ? '' : String(Number((props.target.limits.bytes / MB[props.target.limits.unit]).toFixed(3))))
const audioSeconds = ref(props.target.limits.seconds === null ? '' : String(props.target.limits.seconds))
const longest = ref(props.target.limits.longestSeconds === null ? '' : String(props.target.limits.longestSeconds))
const samples = ref(props.target.limits.samples === null ? '' : String(props.target.limits.samples))
const parts = ref<PartName[]>([...props.target.names.parts])
const separator = ref(props.target.names.separator)
const longestName = ref(props.target.names.longest)
const letters = ref(props.target.names.case)
const characters = ref(props.target.names.characters)
const empty = ref(props.target.empty)
const index = ref(props.target.index)
const middleC = ref(props.target.middleC)

/** An empty field is no limit; what is no number is told by the check. */
const optional = (text: string) => text.trim() === '' ? null : Number(text.replace(',', '.'))

const checked = computed(() => {
  const bytes = optional(size.value)
  return targetSchema.safeParse({
    schema: 1, id: id.value, name: name.value, about: about.value, writes: writes.value,
    pads: { banks: banks.value, inBank: inBank.value, columns: columns.value },
    notes: { first: first.value, last: last.value, way: way.value },
    layers: layers.value, turns: turns.value, holds: holds.value, chokeGroups: chokeGroups.value, polyphony: optional(polyphony.value),
    audio: { rates: rates.value.split(/[,;\s]+/).filter(Boolean).map(Number), highestRate: highestRate.value, depths: depths.value, channels: channels.value, shares: shares.value },
    limits: { seconds: optional(audioSeconds.value), bytes: bytes === null ? null : Math.round(bytes * MB[unit.value]), unit: unit.value, longestSeconds: optional(longest.value), samples: optional(samples.value) },
    names: { parts: parts.value, separator: separator.value, longest: longestName.value, case: letters.value, characters: characters.value },
    empty: empty.value, index: index.value, middleC: middleC.value,
  })
})
const described = computed(() => checked.value.success ? aboutTarget(checked.value.data) : '')
const problems = computed(() => checked.value.success ? [] : checked.value.error.issues.map(issue => `${issue.path.join(', ')}: ${issue.message}`))

function save(): void {
  if (checked.value.success) emit('save', { ...checked.value.data, about: about.value.trim() || described.value })
}
</script>

<template>
  <form class="target" @submit.prevent="save">
    <fieldset>
      <legend>General</legend>
      <label>Name <el-input v-model="name" maxlength="60" /></label>
      <label>Short name <el-input v-model="id" :disabled="!isNew" maxlength="60" /></label>
      <label class="wide">Description <el-input v-model="about" maxlength="400" :placeholder="described" /></label>
      <label>Written as <el-select v-model="writes" aria-label="Written as"><el-option v-for="writer in WRITERS" :key="writer" :value="writer" :label="WRITER_NAMES[writer]" /></el-select></label>
      <label>Middle C is <el-select v-model="middleC" aria-label="Middle C is"><el-option value="C3" label="C3" /><el-option value="C4" label="C4" /></el-select></label>
    </fieldset>
    <fieldset>
      <legend>Pads and notes</legend>
      <label>Banks <el-input-number v-model="banks" :min="1" :max="128" /></label>
      <label>Pads in a bank <el-input-number v-model="inBank" :min="1" :max="128" /></label>
      <label>Columns <el-input-number v-model="columns" :min="1" :max="16" /></label>
      <label>First note <el-input-number v-model="first" :min="0" :max="127" /></label>
      <label>Last note <el-input-number v-model="last" :min="0" :max="127" /></label>
      <label>Notes are <el-select v-model="way" aria-label="Notes are"><el-option value="fixed" label="one for each pad in order" /><el-option value="free" label="free for any pad" /></el-select></label>
      <label>Layers by velocity <el-input-number v-model="layers" :min="1" :max="128" /></label>
      <label>Round robin takes <el-input-number v-model="turns" :min="1" :max="128" /></label>
      <label>Choke groups <el-input-number v-model="chokeGroups" :min="0" :max="127" /></label>
      <label>Voices <el-input v-model="polyphony" placeholder="not limited" /></label>
      <label>Empty pads <el-select v-model="empty" aria-label="Empty pads"><el-option value="kept" label="keep what they have" /><el-option value="erased" label="are erased on sending" /></el-select></label>
      <label class="wide">Supports <el-select v-model="holds" multiple aria-label="Supports"><el-option v-for="feature in FEATURES" :key="feature" :value="feature" :label="feature" /></el-select></label>
    </fieldset>
    <fieldset>
      <legend>Audio</legend>
      <label>Rates in Hz <el-input v-model="rates" placeholder="any up to the highest" /></label>
      <label>Highest rate <el-input-number v-model="highestRate" :min="4000" :max="384000" :step="100" /></label>
      <label>Depths <el-select v-model="depths" multiple aria-label="Depths"><el-option v-for="depth in SAMPLE_DEPTHS" :key="depth" :value="depth" :label="depthWords(depth)" /></el-select></label>
      <label>Channels <el-select v-model="channels" aria-label="Channels"><el-option :value="1" label="mono" /><el-option :value="2" label="stereo" /></el-select></label>
      <label>All audio, s <el-input v-model="audioSeconds" placeholder="not limited" /></label>
      <label>Longest, s <el-input v-model="longest" placeholder="not limited" /></label>
      <label>Size <span class="pair"><el-input v-model="size" placeholder="not limited" aria-label="Size" /><el-select v-model="unit" aria-label="Unit of the size"><el-option value="MB" label="MB" /><el-option value="MiB" label="MiB" /></el-select></span></label>
      <label>Samples <el-input v-model="samples" placeholder="not limited" /></label>
      <el-checkbox v-model="shares" label="Pads with the same sound use one sample" />
    </fieldset>
    <fieldset>
      <legend>Names</legend>
      <label class="wide">Made of <el-select v-model="parts" multiple aria-label="Made of"><el-option v-for="part in PART_NAMES" :key="part" :value="part" :label="part" /></el-select></label>
      <label>Joined by <el-input v-model="separator" maxlength="3" /></label>
      <label>Longest <el-input-number v-model="longestName" :min="4" :max="120" /></label>
      <label>Letters <el-select v-model="letters" aria-label="Letters"><el-option value="as it is" label="as they are" /><el-option value="upper" label="capitals" /><el-option value="lower" label="small" /></el-select></label>
      <label>Characters <el-select v-model="characters" aria-label="Characters"><el-option value="letters, digits and signs" label="letters, digits and signs" /><el-option value="letters and digits" label="letters and digits" /></el-select></label>
      <el-checkbox v-model="index" label="Include a list and a MIDI file" />
    </fieldset>
    <p v-if="problems.length > 0" class="lost" role="alert">
      {{ problems.slice(0, 3).join(' · ') }}
    </p>
    <p v-else class="quiet">
      {{ slotsOf({ pads: { banks, inBank } }) }} pads.
    </p>
    <div class="buttons">
      <el-button @click="emit('leave')">
        Cancel
      </el-button>
      <el-button type="primary" native-type="submit" :disabled="problems.length > 0">
        Save target "{{ name }}"
      </el-button>
    </div>
  </form>
</template>

<style scoped>
.target { max-height: 70vh; overflow-y: auto; }
fieldset { display: grid; grid-template-columns: repeat(3, minmax(0, 1fr)); gap: 6px 14px; margin: 0 0 10px; padding: 6px 0 0; border: 0; border-top: 1px solid var(--rule); }
legend { padding: 0 8px 0 0; font-weight: 600; }
label { display: grid; grid-template-columns: 92px minmax(0, 1fr); align-items: center; gap: 6px; font-size: 12px; }
.wide { grid-column: span 2; }
.pair { display: grid; grid-template-columns: 1fr 70px; gap: 4px; }
.target :deep(.el-input-number) { width: 100%; }
.buttons { display: flex; justify-content: flex-end; gap: 8px; }
.buttons .el-button { margin: 0; }
</style>
