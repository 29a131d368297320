<script setup lang="ts">
import { clampGain, keepHeadroom, matchLoudness, setKitGain } from '~~/core/kit/levels'
import { padLabel } from '~~/core/kit/padLabel'
import { counted } from '../parts/useFormat'
import { say } from '../parts/useSay'
import { useKit } from './kit'
import { useLevels } from './levels'

/** The kit's own gain, pads brought to one loudness, and headroom for hits that come together. */
const kit = useKit()
const levels = useLevels()
const targetLufs = ref(-20)
const wantedPeakDb = ref(-1)
const MOST_AT_ONCE = 16

onMounted(() => {
  levels.wantsTogether = true
})
onUnmounted(() => {
  levels.wantsTogether = false
})

const filled = computed(() => kit.kit.pads.flatMap((pad, index) => pad.layers.length > 0 ? [index] : []))
/** The chosen pads, or all of them. */
const matched = computed(() => kit.chosenPads.size > 1 ? kit.editedPads : filled.value)
const measured = computed(() => matched.value.flatMap(index => levels.levelOf(index)?.hitLufs ?? []))
const spread = computed(() => measured.value.length < 2 ? undefined : Math.max(...measured.value) - Math.min(...measured.value))

function match(): void {
  const before = kit.kit
  kit.edit(`Match ${counted(matched.value.length, 'pad')} to ${targetLufs.value} LUFS`, state => matchLoudness(state, matched.value, levels.levelOf, targetLufs.value))
  if (kit.kit === before) say('Already at this loudness.')
}

function headroom(): void {
  const peakDb = levels.together?.peakDb
  if (peakDb === undefined) return
  kit.edit(`Keep a peak of ${wantedPeakDb.value} dBFS`, state => keepHeadroom(state, peakDb, wantedPeakDb.value))
}

const peakText = computed(() => !levels.together ? '…' : Number.isFinite(levels.together.peakDb) ? `${levels.together.peakDb.toFixed(1)} dBFS` : 'silence')
/** What is measured of the kit as it was before would be kept to. */
const canKeepHeadroom = computed(() => levels.isTogetherNow && Number.isFinite(levels.together?.peakDb))
const outputs = computed(() => levels.together ? kit.kit.outputs.map((output, i) => ({ ...output, peakDb: levels.together!.outputPeaksDb[i] ?? -Infinity })).filter(({ peakDb }) => Number.isFinite(peakDb)) : [])
</script>

<template>
  <div class="levels">
    <section>
      <h3>Whole kit</h3>
      <NumberField label="Kit gain" unit="dB" :values="[kit.kit.gainDb]" :min="-96" :max="24" :step="0.5" :reset="0" @set="(value, gesture) => kit.edit('Kit gain', state => setKitGain(state, value), gesture)" @move="(by, gesture) => kit.edit('Kit gain', state => setKitGain(state, state.gainDb + by), gesture)" />
      <NumberField label="New sounds" named="Gain for new sounds" unit="dB" :values="[kit.kit.newSoundGainDb]" :min="-96" :max="24" :step="0.5" :reset="0" title="Sounds put on empty pads get this gain; packs are often 8 to 10 dB hotter than a mix needs" @set="(value, gesture) => kit.edit('Gain for new sounds', state => ({ ...state, newSoundGainDb: value }), gesture)" @move="(by, gesture) => kit.edit('Gain for new sounds', state => ({ ...state, newSoundGainDb: clampGain(state.newSoundGainDb + by) }), gesture)" />
      <NumberField label="Voices at once" :digits="0" :values="[kit.kit.polyphony]" :min="1" :max="256" :step="1" :reset="64" @set="(value, gesture) => kit.edit('Voices of the kit', state => ({ ...state, polyphony: Math.round(value) }), gesture)" @move="(by, gesture) => kit.edit('Voices of the kit', state => ({ ...state, polyphony: Math.max(1, Math.min(256, state.polyphony + by)) }), gesture)" />
    </section>
    <section>
      <h3>One loudness</h3>
      <p>
        {{ counted(matched.length, 'pad') }}{{ kit.chosenPads.size > 1 ? ', the selected ones' : '' }}<span v-if="spread !== undefined">, <span class="figure">{{ spread.toFixed(1) }} LU</span> apart</span><span v-if="levels.isMeasuring" class="quiet"> · measuring</span>
      </p>
      <div class="act">
        <el-button size="small" :disabled="measured.length === 0 || levels.awaits(matched)" @click="match">
          Match {{ counted(matched.length, 'pad') }} to
        </el-button>
        <el-input-number v-model="targetLufs" size="small" :min="-60" :max="0" :step="1" aria-label="Loudness to match, in LUFS" /> LUFS
      </div>
    </section>
    <section>
      <h3>Headroom</h3>
      <p role="status">
        The <el-input-number v-model="levels.atOnce" size="small" :min="1" :max="MOST_AT_ONCE" :controls="false" aria-label="Loudest pads at once" class="few" /> loudest at once ({{ levels.loudest.map(padLabel).join(', ') || 'none' }}):
        <strong class="figure" :class="{ lost: levels.together && levels.together.peakDb > 0 }">{{ peakText }}</strong><span v-if="levels.together && levels.together.peakDb > 0" class="lost"> · clips by {{ levels.together.peakDb.toFixed(1) }} dB</span>
      </p>
      <p v-if="outputs.length > 1" class="figure quiet">
        {{ outputs.map(output => `${output.name} ${output.peakDb.toFixed(1)}`).join(' · ') }} dBFS
      </p>
      <div class="act">
        <el-button size="small" :disabled="!canKeepHeadroom" @click="headroom">
          Set the kit gain for a peak of
        </el-button>
        <el-input-number v-model="wantedPeakDb" size="small" :min="-24" :max="0" :step="0.5" :precision="1" aria-label="Peak to keep, in dBFS" /> dBFS
      </div>
    </section>
  </div>
</template>

<style scoped>
.levels { display: grid; grid-template-columns: 190px 1fr 1.9fr; gap: 16px; padding: 6px 12px; overflow-y: auto; font-size: 12px; }
h3 { margin: 0 0 4px; font-size: 13px; }
p { margin: 0 0 6px; }
.act { display: flex; flex-wrap: wrap; align-items: center; gap: 6px; }
.act :deep(.el-input-number) { width: 88px; }
.few { width: 40px; }
</style>
