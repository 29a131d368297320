import { resample } from '../audio/resample'
import type { Audio } from './bake'
import type { Variant } from './variants'

const FADE_OUT_SECONDS = 0.03
const FADE_IN_SECONDS = 0.0005

/** Frames that the end of a cut sample fades over: a quarter of what is left at most. */
export function fadeOutFrames(frames: number, sampleRate: number): number {
  return Math.min(Math.floor(frames / 4), Math.round(FADE_OUT_SECONDS * sampleRate))
}

/** The gain of a fade where so much of it has passed, 0 to 1: half a cosine, with no corner at either end. */
export function fadeOutGain(passed: number): number {
  return 0.5 + 0.5 * Math.cos(Math.PI * passed)
}

/** How far a fold to mono may be raised or lowered to stay as loud as both sides were. */
const MOST_FOLD_GAIN = 2

/** Makes a sample what its variant says: folded, cut and faded, brought to its rate. The depth comes when it is written. */
export function reshape({ channels, sampleRate }: Audio, variant: Variant): Audio {
  const folded = variant.channels === 1 && channels.length > 1 ? [fold(channels, variant)] : channels.slice(0, variant.channels)
  return { channels: resample(folded.map(channel => cut(channel, sampleRate, variant)), sampleRate, variant.sampleRate), sampleRate: variant.sampleRate }
}

/** One channel of both sides, as loud as they were together. */
function fold([left, right]: readonly Float32Array[], { fold: how }: Variant): Float32Array {
  if (how === 'same' || how === null) return left!
  const out = how === 'sum' ? left!.map((value, i) => (value + right![i]!) / 2) : Float32Array.from(how === 'left' ? left! : right!)
  const [both, one] = [energy(left!) + energy(right!), energy(out)]
  const gain = one > 0 ? Math.max(1 / MOST_FOLD_GAIN, Math.min(MOST_FOLD_GAIN, Math.sqrt(both / 2 / one))) : 1
  for (let i = 0; i < out.length; i++) out[i]! *= gain
  return out
}

function energy(channel: Float32Array): number {
  let sum = 0
  for (const value of channel) sum += value * value
  return sum
}

function cut(channel: Float32Array, sampleRate: number, { fromFrame, toFrame }: Variant): Float32Array {
  if (fromFrame === 0 && toFrame >= channel.length) return channel
  const out = channel.slice(fromFrame, toFrame)
  if (fromFrame > 0) {
    const frames = Math.min(out.length, Math.round(FADE_IN_SECONDS * sampleRate))
    for (let i = 0; i < frames; i++) out[i]! *= i / frames
  }
  if (toFrame < channel.length) {
    const frames = fadeOutFrames(out.length, sampleRate)
    for (let i = 0; i < frames; i++) out[out.length - 1 - i]! *= fadeOutGain(1 - (i + 0.5) / frames)
  }
  return out
}
