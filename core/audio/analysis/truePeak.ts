import { layStretch } from '../lay'
import { sincKernel } from '../sinc'
import type { Envelope } from './envelope'
import { TRUE_PEAK_KERNEL } from './truePeakKernel'

type Highest = (at: number, end: number, first: number, last: number, least: number, peak: number, taps: number, rowBytes: number, reach: number) => number

const OVERSAMPLING = 4
const ZERO_CROSSINGS = 12
const KAISER_BETA = 6
const PASS_BAND = 0.97
/** Beside a sample that is lower than this part of the highest one no higher peak is looked for. */
const WORTH_LOOKING = 0.7

const FLOAT_BYTES = 4
/** Taps that are read at a time. */
const LANES = 4
/** Samples that are looked at in one go; all of it fits into one page. */
const PIECE = 8_192

let opened: ReturnType<typeof make> | undefined

/** The kernel with its taps, in WebAssembly with SIMD: a fifth of the time of the same in plain code. */
function make() {
  const { halfWidth, table } = sincKernel(ZERO_CROSSINGS, PASS_BAND, KAISER_BETA, OVERSAMPLING)
  const taps = halfWidth * 2
  const row = Math.ceil(taps / LANES) * LANES
  const memory = new WebAssembly.Memory({ initial: 1 })
  const floats = new Float32Array(memory.buffer)
  for (let place = 1; place < OVERSAMPLING; place++) floats.set(table.subarray(place * taps, (place + 1) * taps), (place - 1) * row)
  const { exports } = new WebAssembly.Instance(new WebAssembly.Module(TRUE_PEAK_KERNEL), { truePeak: { memory } })
  return { highest: exports.highest as Highest, floats, samplesAt: (OVERSAMPLING - 1) * row, before: halfWidth, row }
}

/**
 * The highest absolute value of the waveform, looked for at four times the sample rate. Full scale is 1; it can pass 1.
 * Source: ITU-R BS.1770-4, annex 2 (its method, with a longer filter).
 *
 * @param envelope of these channels: what lies far below the peak is passed over
 */
export function truePeak(channels: readonly Float32Array[], envelope: Pick<Envelope, 'values' | 'framesPerStep' | 'peak'>): number {
  const { values, framesPerStep, peak: samplePeak } = envelope
  const least = samplePeak * WORTH_LOOKING
  let peak = samplePeak
  for (const channel of channels) {
    for (let step = 0; step < values.length; step++) {
      if (values[step]! < least) continue
      const end = Math.min(channel.length, (step + 1) * framesPerStep)
      for (let at = step * framesPerStep; at < end; at += PIECE) peak = highestBeside(channel, at, Math.min(end, at + PIECE), least, peak)
    }
  }
  return peak
}

/** The highest absolute value beside the samples of a stretch, or the peak that is known. */
function highestBeside(channel: Float32Array, from: number, to: number, least: number, peak: number): number {
  const { highest, floats, samplesAt, before, row } = opened ??= make()
  layStretch(channel, from - before, to - from + before + row, floats, samplesAt)
  const addressOf = (sample: number) => (samplesAt + before + sample - from) * FLOAT_BYTES
  return highest(addressOf(from), addressOf(to), addressOf(0), addressOf(channel.length - 1), least, peak, 0, row * FLOAT_BYTES, (before - 1) * FLOAT_BYTES)
}
