<script setup lang="ts">
import { useRafFn } from '@vueuse/core'
import { SPECTRUM_HIGHEST_HZ, SPECTRUM_LOWEST_HZ } from '~~/core/audio/analysis/averageSpectrum'
import { IMPORTANCES } from '~~/core/fit/plan'
import { changesOf } from '~~/core/fit/words'
import { padLabel } from '~~/core/kit/padLabel'
import type { Hold } from '~~/core/fit/variants'
import { SIDES, type HearSide } from '../sound'
import { seconds } from '../parts/useFormat'
import { saying } from '../parts/useSay'
import { useFit } from './fit'
import { useFitHearing } from './fitHearing'

/** Before and after of the current sample, or of the whole kit: heard in one place at one level, drawn over each other. */
const fit = useFit()
const hearing = useFitHearing()

const HOLDS: readonly (readonly [what: keyof Hold, label: string])[] = [['stereo', 'both sides'], ['length', 'length'], ['bandwidth', 'top'], ['layers', 'layers and takes'], ['pad', 'never left out']]
const NAMES: Readonly<Record<HearSide, string>> = { before: 'Before', after: 'After', difference: 'Difference' }

const pad = computed(() => fit.row && fit.planned?.kit.pads[fit.row.padIndex])
const changes = computed(() => fit.row && fit.planned ? changesOf(fit.planned.kit, fit.row) : [])
const picture = computed(() => hearing.pictures)
const played = ref<number | null>(null)
const { pause, resume } = useRafFn(() => {
  played.value = hearing.position()
}, { immediate: false })
watch(() => hearing.isPlaying, (is) => {
  if (is) resume()
  else {
    pause()
    played.value = null
  }
}, { immediate: true })

/** What a target asks of every sample can't be held. */
function hasNoUse(what: keyof Hold): boolean {
  const { channels, rates } = fit.target.audio
  return (what === 'stereo' && channels === 1) || (what === 'bandwidth' && rates.length === 1)
}

/** A spectrum as a line, 60 dB high. */
function line(bands: Float32Array | undefined): string {
  if (!bands) return ''
  return [...bands].map((db, i) => `${i === 0 ? 'M' : 'L'}${(i * 100 / (bands.length - 1)).toFixed(1)} ${(60 - Math.max(0, 1 + db / 60) * 60).toFixed(1)}`).join(' ')
}
</script>

<template>
  <div class="hear">
    <p v-if="!fit.row || !pad" class="quiet none">
      Choose a row of the plan to hear it before and after.
    </p>
    <template v-else>
      <h2 class="cut">
        {{ padLabel(fit.row.padIndex) }} {{ pad.name }}<span v-if="pad.layers.length > 1" class="quiet">, sample {{ fit.row.at + 1 }}</span>
      </h2>
      <ul class="changes">
        <li v-for="change in changes" :key="change.words" :class="{ lost: change.what === 'left out' || change.what === 'dropped', look: (change.db ?? -120) > -18 && change.what !== 'left out' }">
          {{ change.words }}
        </li>
        <li v-if="changes.length === 0" class="quiet">
          Nothing changes.
        </li>
      </ul>
      <div class="sides" role="group" aria-label="What is heard">
        <button v-for="side in SIDES" :key="side" type="button" class="side" :class="{ here: hearing.side === side }" :aria-pressed="hearing.side === side" :disabled="side !== 'before' && !hearing.hasAfter" @click="saying(() => hearing.hear(side))">
          {{ NAMES[side] }}
        </button>
      </div>
      <div class="buttons">
        <el-button size="small" @click="saying(() => hearing.toggle('sound'))">
          {{ hearing.isPlaying && hearing.what === 'sound' ? 'Stop' : 'Play this sample' }}
        </el-button>
        <el-button size="small" :loading="hearing.isRendering" @click="saying(() => hearing.toggle('kit'))">
          {{ hearing.isPlaying && hearing.what === 'kit' ? 'Stop' : 'Play the whole kit' }}
        </el-button>
        <el-checkbox v-model="hearing.isLooped" size="small" label="Loop" />
      </div>
      <p v-if="hearing.error" class="lost" role="alert">
        {{ hearing.error }}
      </p>
      <p class="figure levels">
        <template v-if="hearing.matchedDb !== null && hearing.hasAfter">
          after {{ hearing.matchedDb >= 0 ? '+' : '' }}{{ hearing.matchedDb.toFixed(1) }} dB to match · difference {{ hearing.differenceDb === null || hearing.differenceDb <= -119 ? 'none' : `${hearing.differenceDb.toFixed(1)} dB` }}
        </template>
        <template v-else>&nbsp;</template>
      </p>
      <figure class="over" aria-label="Waveforms over each other">
        <div class="wave">
          <WaveForm :picture="picture.before" label="Waveform before" class="under" />
          <WaveForm :picture="picture.after" label="Waveform after" :played="1" class="top" />
          <WaveForm v-if="hearing.side === 'difference'" :picture="picture.difference" label="Waveform of the difference" class="top" />
          <span v-if="played !== null" class="needle" :style="{ left: `${played * 100}%` }" />
        </div>
        <figcaption class="quiet">
          {{ seconds(hearing.seconds) }} · before in ink, after over it
        </figcaption>
      </figure>
      <figure v-if="hearing.what === 'sound'" class="over" aria-label="Spectra over each other">
        <svg viewBox="0 0 100 60" preserveAspectRatio="none" class="spectra" role="img" aria-label="Spectrum before and after">
          <path :d="line(hearing.spectra.before)" class="before" /><path :d="line(hearing.spectra.after)" class="after" />
        </svg>
        <figcaption class="quiet">
          {{ SPECTRUM_LOWEST_HZ }} Hz to {{ SPECTRUM_HIGHEST_HZ / 1000 }} kHz, 60 dB
        </figcaption>
      </figure>
      <fieldset class="holds">
        <legend>Hold of {{ padLabel(fit.row.padIndex) }}</legend>
        <el-checkbox v-for="[what, label] in HOLDS" :key="what" size="small" :label="label" :disabled="hasNoUse(what)" :title="hasNoUse(what) ? `${fit.target.name} does not allow this choice` : undefined" :model-value="fit.holdOf(fit.row.padIndex)[what] === true" @update:model-value="fit.toggleHold(fit.row.padIndex, what)" />
        <label class="worth">matters
          <el-select size="small" :model-value="fit.wishes.importance[fit.row.padIndex] ?? 'normal'" aria-label="Importance of this pad" @update:model-value="fit.setImportance(fit.row.padIndex, $event)">
            <el-option v-for="value in IMPORTANCES" :key="value" :value="value" :label="{ low: 'low', normal: 'normal', high: 'high' }[value]" />
          </el-select>
        </label>
      </fieldset>
    </template>
  </div>
</template>

<style scoped>
.hear { display: flex; flex-direction: column; gap: 6px; padding: 8px 12px; overflow-y: auto; }
.changes { margin: 0; padding-left: 16px; font-size: 12px; line-height: 1.35; }
.sides { display: grid; grid-template-columns: repeat(3, 1fr); border: 1px solid var(--rule); }
.side { height: 28px; border: 0; border-right: 1px solid var(--rule); background: none; color: var(--ink); cursor: pointer; }
.side:last-child { border-right: 0; }
.side.here { background: var(--accent); color: var(--on-accent); font-weight: 600; }
.side:disabled { color: var(--quiet); cursor: default; text-decoration: line-through; }
.buttons { display: flex; flex-wrap: wrap; align-items: center; gap: 6px; }
.buttons :deep(.el-button) { margin: 0; }
.buttons :deep(.el-checkbox) { margin: 0; }
.levels { margin: 0; font-size: 11px; white-space: normal; }
.over { margin: 0; }
.wave { position: relative; height: 84px; border-bottom: 1px solid var(--rule); background: var(--sheet); }
.wave > .under, .wave > .top { position: absolute; inset: 0; }
.top { opacity: 0.8; }
.needle { position: absolute; top: 0; bottom: 0; width: 1px; background: var(--accent); }
figcaption { font-size: 11px; }
.spectra { display: block; width: 100%; height: 70px; border-bottom: 1px solid var(--rule); background: var(--sheet); }
.spectra path { fill: none; stroke-width: 1.4; vector-effect: non-scaling-stroke; }
.spectra .before { stroke: var(--ink); }
.spectra .after { stroke: var(--accent); }
.holds { display: flex; flex-wrap: wrap; gap: 0 12px; margin: 0; padding: 4px 0 0; border: 0; border-top: 1px solid var(--rule); }
.holds legend { padding: 0 6px 0 0; font-size: 12px; font-weight: 600; }
.holds :deep(.el-checkbox) { height: 22px; margin: 0; }
.worth { display: flex; align-items: center; gap: 6px; font-size: 12px; }
.worth .el-select { width: 96px; }
.none { margin: 24px 0; }
</style>
