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

/** One second-order filter: b0 b1 b2 over 1 a1 a2. */
interface Biquad {
  readonly b0: number
  readonly b1: number
  readonly b2: number
  readonly a1: number
  readonly a2: number
}

/**
 * The two filters of K-weighting for any sample rate. BS.1770 gives coefficients for 48 kHz only; these are the analogue
 * filters behind them, brought to the wanted rate by the bilinear transform, and equal the table at 48 kHz.
 * Source: ITU-R BS.1770-4, annex 1, tables 1 and 2; De Man, "Evaluation of implementations of the EBU R128 loudness
 * measurement" (2018), for the analogue parameters.
 */
export function kWeighting(sampleRate: number): readonly [Biquad, Biquad] {
  return [shelf(sampleRate), highPass(sampleRate)]
}

function shelf(sampleRate: number): Biquad {
  const q = 0.7071752369554196
  const k = Math.tan(Math.PI * 1681.974450955533 / sampleRate)
  const vh = 10 ** (3.999843853973347 / 20)
  const vb = vh ** 0.4996667741545416
  const a0 = 1 + k / q + k * k
  return {
    b0: (vh + vb * k / q + k * k) / a0,
    b1: 2 * (k * k - vh) / a0,
    b2: (vh - vb * k / q + k * k) / a0,
    a1: 2 * (k * k - 1) / a0,
    a2: (1 - k / q + k * k) / a0,
  }
}

function highPass(sampleRate: number): Biquad {
  const q = 0.5003270373238773
  const k = Math.tan(Math.PI * 38.13547087602444 / sampleRate)
  const a0 = 1 + k / q + k * k
  return { b0: 1, b1: -2, b2: 1, a1: 2 * (k * k - 1) / a0, a2: (1 - k / q + k * k) / a0 }
}

/** Sums of K-weighted squares over all channels, one a step of time; from them any window is a short sum. Not scaled by the gate's offset. */
export interface WeightedSteps {
  readonly sums: Float64Array
  readonly framesPerStep: number
}

/** Runs the two filters over all channels and sums what comes out in steps of so many seconds. Of more than two channels the first two count. */
export function weightedSteps(channels: readonly Float32Array[], sampleRate: number, stepSeconds: number): WeightedSteps {
  const framesPerStep = Math.max(1, Math.round(stepSeconds * sampleRate))
  const frames = channels[0]?.length ?? 0
  const sums = new Float64Array(Math.ceil(frames / framesPerStep))
  const [one, two] = kWeighting(sampleRate)
  // Of more than two channels the first two are heard (see `render/prepare.ts`), so the first two count.
  for (const channel of channels.slice(0, 2)) {
    let x1 = 0, x2 = 0, y1 = 0, y2 = 0, z1 = 0, z2 = 0
    for (let step = 0, i = 0; step < sums.length; step++) {
      const end = Math.min(frames, i + framesPerStep)
      let sum = 0
      for (; i < end; i++) {
        const x = channel[i]!
        // What came out last is taken last: all before it is ready by then.
        const y = one.b0 * x + one.b1 * x1 + one.b2 * x2 - one.a2 * y2 - one.a1 * y1
        const z = y - 2 * y1 + y2 - two.a2 * z2 - two.a1 * z1
        x2 = x1
        x1 = x
        y2 = y1
        y1 = y
        z2 = z1
        z1 = z
        sum += z * z
      }
      sums[step]! += sum
    }
  }
  return { sums, framesPerStep }
}

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
