import { layStretch } from '../lay'
import { sincKernel } from '../sinc'
import { highestIn, type Envelope } from './envelope'
import { TRUE_PEAK_KERNEL } from './truePeakKernel'

type Highest = (at: number, end: number, slack: number, peak: number, part: number, taps: number, rowBytes: number, reach: number, middle: number, middleBytes: number) => number

const OVERSAMPLING = 8
/** Of the eighths between two samples: the quarters first, the others where those come near the peak. */
const ORDER = [2, 4, 6, 1, 3, 5, 7] as const
/** Samples on each side of a place that it depends on. */
export const REACH = 48
const KAISER_BETA = 4
/** Half at the Nyquist frequency: what is lost just below it, its image just above it makes up for where both are highest. */
const CUTOFF = 1
/** Taps on each side that are looked at first. */
const MIDDLE = 8

/**
 * What lies nowhere near the highest eighth: where a waveform without frequencies above Nyquist is highest, with |f(t0)| = A, it is at
 * least A cos(2 pi W (t - t0)) around there (W the Nyquist frequency; Bernstein's inequality for band-limited functions), and a sample
 * or quarter lies within an eighth: so one of those is at least A cos(pi / 8).
 */
export const TRUE_PEAK_PART = Math.cos(Math.PI / 8)

const FLOAT_BYTES = 4
/** Steps of the envelope that are looked at in one go. */
const STEPS_AT_ONCE = 8
/** Samples in one go at most; all of it fits into one page. */
const PIECE = 8_192

let opened: ReturnType<typeof make> | undefined

/** The kernel with its taps, in WebAssembly with SIMD. */
function make() {
  const { halfWidth, table } = sincKernel(REACH, CUTOFF, KAISER_BETA, OVERSAMPLING)
  const row = halfWidth * 2
  const memory = new WebAssembly.Memory({ initial: 1 })
  const floats = new Float32Array(memory.buffer)
  let [all, outside] = [0, 0]
  ORDER.forEach((place, i) => {
    const taps = table.subarray(place * row, (place + 1) * row)
    floats.set(taps, i * row)
    all = Math.max(all, taps.reduce((sum, tap) => sum + Math.abs(tap), 0))
    outside = Math.max(outside, taps.reduce((sum, tap, at) => Math.abs(at + 0.5 - halfWidth) < MIDDLE ? sum : sum + Math.abs(tap), 0))
  })
  const { exports } = new WebAssembly.Instance(new WebAssembly.Module(TRUE_PEAK_KERNEL), { truePeak: { memory } })
  return { highest: exports.highest as Highest, floats, samplesAt: ORDER.length * row, halfWidth, row, all, outside }
}

/**
 * The highest absolute value of the waveform, looked for at eight times the sample rate between the first and the last sample. Full
 * scale is 1; it can pass 1. Source: ITU-R BS.1770-4, annex 2 (its method, with twice the rate and a longer filter).
 *
 * Passed over is only what provably lies below the highest so far: a place is no higher than the sum of its taps' absolute values times
 * the highest sample within their reach; nor than the sum of its middle taps, which are summed up, and so much for the others.
 *
 * @param envelope of these channels
 */
export function truePeak(channels: readonly Float32Array[], envelope: Pick<Envelope, 'values' | 'framesPerStep' | 'peak'>): number {
  const { values, framesPerStep, peak: samplePeak } = envelope
  const kernel = opened ??= make()
  const reach = Math.ceil((kernel.halfWidth + 1) / framesPerStep)
  let peak = samplePeak
  for (const channel of channels) {
    for (let step = 0; step < values.length; step += STEPS_AT_ONCE) {
      const around = highestIn(values, step - reach, step + STEPS_AT_ONCE + reach)
      if (around * kernel.all < TRUE_PEAK_PART * peak) continue
      const end = Math.min(channel.length - 1, (step + STEPS_AT_ONCE) * framesPerStep)
      for (let at = step * framesPerStep; at < end; at += PIECE) peak = highestBetween(channel, at, Math.min(end, at + PIECE), around, peak)
    }
  }
  return peak
}

/**
 * The highest absolute value between the samples of a stretch of at most `PIECE`, or the peak that is known.
 *
 * @param around highest absolute sample of the stretch and `REACH` on both sides
 */
export function highestBetween(channel: Float32Array, from: number, to: number, around: number, peak: number): number {
  const { highest, floats, samplesAt, halfWidth, row, outside } = opened ??= make()
  const before = halfWidth - 1
  layStretch(channel, from - before, to - from + row, floats, samplesAt)
  const addressOf = (sample: number) => (samplesAt + before + sample - from) * FLOAT_BYTES
  return highest(addressOf(from), addressOf(to), outside * around, peak, TRUE_PEAK_PART, 0, row * FLOAT_BYTES, before * FLOAT_BYTES, (halfWidth - MIDDLE) * FLOAT_BYTES, 2 * MIDDLE * FLOAT_BYTES)
}
