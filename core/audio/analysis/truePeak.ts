import { sincKernel } from '../sinc'

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
 */
export function truePeak(channels: readonly Float32Array[]): number {
  let peak = 0
  for (const channel of channels) {
    for (const value of channel) {
      if (value > peak) peak = value
      else if (-value > peak) peak = -value
    }
  }
  const samplePeak = peak
  const { halfWidth, table } = kernel
  const taps = halfWidth * 2
  for (const channel of channels) {
    const least = samplePeak * WORTH_LOOKING
    for (let i = 0; i + 1 < channel.length; i++) {
      const here = Math.abs(channel[i]!)
      const next = Math.abs(channel[i + 1]!)
      if (here < least && next < least) continue
      // A top between two samples makes the higher of them higher than its other neighbour.
      if (here >= next ? here < least || here < Math.abs(channel[i - 1] ?? 0) : next < least || next < Math.abs(channel[i + 2] ?? 0)) continue
      const first = i - halfWidth + 1
      const from = Math.max(0, -first)
      const to = Math.min(taps, channel.length - first)
      for (let phase = 1; phase < OVERSAMPLING; phase++) {
        const row = phase * taps
        let sum = 0
        for (let tap = from; tap < to; tap++) sum += channel[first + tap]! * table[row + tap]!
        if (sum > peak || -sum > peak) peak = Math.abs(sum)
      }
    }
  }
  return peak
}
