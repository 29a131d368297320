import { piecesOf } from '../pieces'
import { WEIGHTING_KERNEL } from './weightingKernel'

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

type Weigh = (input: number, count: number, step: number, out: number, state: number, b0: number, b1: number, b2: number, a1: number, a2: number, c1: number, c2: number) => void

const DOUBLE_BYTES = 8
/** Values that the filters remember. */
const STATE = 6
/** Samples and sums that the kernel is given in one go; with the state they fit into two pages. */
const MOST_SAMPLES = 16_384
const MOST_STEPS = 8_000

let opened: ReturnType<typeof open> | undefined

function open() {
  const memory = new WebAssembly.Memory({ initial: 2 })
  const { exports } = new WebAssembly.Instance(new WebAssembly.Module(WEIGHTING_KERNEL), { weighting: { memory } })
  const samplesAt = (STATE + MOST_STEPS) * DOUBLE_BYTES
  return {
    weigh: exports.weigh as Weigh,
    state: new Float64Array(memory.buffer, 0, STATE),
    sums: new Float64Array(memory.buffer, STATE * DOUBLE_BYTES, MOST_STEPS),
    samples: new Float32Array(memory.buffer, samplesAt, MOST_SAMPLES),
  }
}

/** Runs the two filters over all channels and sums what comes out in steps of so many seconds. Of more than two channels the first two count. */
export function weightedSteps(channels: readonly Float32Array[], sampleRate: number, stepSeconds: number): WeightedSteps {
  const framesPerStep = Math.max(1, Math.round(stepSeconds * sampleRate))
  const whole = new Float64Array(Math.ceil((channels[0]?.length ?? 0) / framesPerStep))
  const [one, two] = kWeighting(sampleRate)
  const { weigh, state, sums, samples } = opened ??= open()
  // Of more than two channels the first two are heard (see `render/prepare.ts`), so the first two count.
  for (const channel of channels.slice(0, 2)) {
    state.fill(0)
    for (const { from, count, firstStep, steps } of piecesOf(channel.length, framesPerStep, MOST_SAMPLES, MOST_STEPS)) {
      samples.set(channel.subarray(from, from + count))
      sums.set(whole.subarray(firstStep, firstStep + steps))
      weigh(samples.byteOffset, count, framesPerStep, sums.byteOffset, state.byteOffset, one.b0, one.b1, one.b2, one.a1, one.a2, two.a1, two.a2)
      whole.set(sums.subarray(0, steps), firstStep)
    }
  }
  return { sums: whole, framesPerStep }
}
