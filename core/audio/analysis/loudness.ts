import { weightedSteps, type WeightedSteps } from './weighting'

/** Loudness that sounds are brought to before they are compared, in LUFS of their loudest hit: low enough for short hats. */
export const REFERENCE_LUFS = -26

/** No sound is raised so far that its true peak passes this, in dBTP. */
export const MATCHING_CEILING_DB = -1

/** Loudness of silence: below the absolute gate of BS.1770 there is nothing to be measured. */
export const SILENCE_LUFS = -70

const RELATIVE_GATE_LU = -10
const OFFSET = -0.691
const HIT_STEP_SECONDS = 0.01
/** 400 ms. */
const STEPS_PER_BLOCK = 40
const OVERLAP = 4

/** Both loudnesses of a sound from one pass of the filters. */
export interface Loudness {
  /** Integrated, in LUFS; null for anything shorter than one block of 400 ms. */
  readonly integratedLufs: number | null
  /** Of its loudest hit, in LUFS. */
  readonly hitLufs: number
}

/**
 * Measures loudness. Integrated: blocks of 400 ms, each a quarter further on, with both gates. Of a hit: the loudest
 * 400 ms, with silence before and after the file; a longer or shorter tail beyond that window changes nothing, so that
 * two recordings of one hit agree; not gated.
 * Source: ITU-R BS.1770-4, annex 1.
 */
export function loudnessOf(channels: readonly Float32Array[], sampleRate: number): Loudness {
  const steps = weightedSteps(channels, sampleRate, HIT_STEP_SECONDS)
  const whole = Math.floor((channels[0]?.length ?? 0) / steps.framesPerStep)
  return { integratedLufs: integrated(steps, whole), hitLufs: hit(steps) }
}

function integrated({ sums, framesPerStep }: WeightedSteps, whole: number): number | null {
  const stride = STEPS_PER_BLOCK / OVERLAP
  if (whole < STEPS_PER_BLOCK) return null
  const blocks: number[] = []
  for (let step = 0; step + STEPS_PER_BLOCK <= whole; step += stride) {
    let sum = 0
    for (let i = 0; i < STEPS_PER_BLOCK; i++) sum += sums[step + i]!
    blocks.push(sum / (framesPerStep * STEPS_PER_BLOCK))
  }
  const loud = blocks.filter(power => toLufs(power) > SILENCE_LUFS)
  if (loud.length === 0) return SILENCE_LUFS
  const gate = toLufs(mean(loud)) + RELATIVE_GATE_LU
  return toLufs(mean(loud.filter(power => toLufs(power) > gate)))
}

function hit({ sums, framesPerStep }: WeightedSteps): number {
  let window = 0
  let loudest = 0
  for (let step = 0; step < sums.length; step++) {
    window += sums[step]! - (sums[step - STEPS_PER_BLOCK] ?? 0)
    if (window > loudest) loudest = window
  }
  return Math.max(SILENCE_LUFS, toLufs(loudest / (framesPerStep * STEPS_PER_BLOCK)))
}

/**
 * Decibels that bring a hit of this loudness to the reference, less where its peak would pass the ceiling; 0 for
 * silence. Used wherever levels are matched.
 *
 * @param referenceLufs what they are brought to
 */
export function matchingGainDb(lufs: number, truePeakDb: number, referenceLufs = REFERENCE_LUFS): number {
  return lufs <= SILENCE_LUFS ? 0 : Math.min(referenceLufs - lufs, MATCHING_CEILING_DB - truePeakDb)
}

function toLufs(power: number): number {
  return power > 0 ? OFFSET + 10 * Math.log10(power) : Number.NEGATIVE_INFINITY
}

function mean(values: readonly number[]): number {
  return values.reduce((sum, value) => sum + value, 0) / values.length
}
