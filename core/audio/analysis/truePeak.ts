import { sincKernel } from '../sinc'
import type { Envelope } from './envelope'

const OVERSAMPLING = 4
const ZERO_CROSSINGS = 12
const KAISER_BETA = 6
const PASS_BAND = 0.97
/** Beside a sample that is lower than this part of the highest one no higher peak is looked for. */
const WORTH_LOOKING = 0.7

const kernel = sincKernel(ZERO_CROSSINGS, PASS_BAND, KAISER_BETA, OVERSAMPLING)

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
      for (let i = step * framesPerStep; i < end; i++) {
        const here = Math.abs(channel[i]!)
        if (here < least) continue
        // A top between two samples makes the higher of them higher than its other neighbour too.
        if (i > 0 && here < Math.abs(channel[i - 1]!)) continue
        if (i + 1 < channel.length && here < Math.abs(channel[i + 1]!)) continue
        if (i > 0) peak = Math.max(peak, highestAfter(channel, i - 1))
        if (i + 1 < channel.length) peak = Math.max(peak, highestAfter(channel, i))
      }
    }
  }
  return peak
}

/** The highest absolute value between a sample and the next. */
function highestAfter(channel: Float32Array, sample: number): number {
  const { halfWidth, table } = kernel
  const taps = halfWidth * 2
  const first = sample - halfWidth + 1
  const from = Math.max(0, -first)
  const to = Math.min(taps, channel.length - first)
  let [a, b, c] = [0, 0, 0]
  for (let tap = from; tap < to; tap++) {
    const value = channel[first + tap]!
    a += value * table[taps + tap]!
    b += value * table[2 * taps + tap]!
    c += value * table[3 * taps + tap]!
  }
  return Math.max(Math.abs(a), Math.abs(b), Math.abs(c))
}
