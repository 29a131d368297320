import fc from 'fast-check'
import { resample } from '../../core/audio/resample'
import { Random } from '../../demo/synth/dsp'
import { bongo, closedHat, kick, snare, tom } from '../../demo/synth/drums'
import { cowbell } from '../../demo/synth/metals'

export const STRUCK_RATE = 48_000
const DRUMS = { kick: kick(false), snare, bongo, cowbell, closedHat, tom: tom(90, 120) }
export type Struck = keyof typeof DRUMS
export const STRUCK_NAMES = Object.keys(DRUMS) as readonly Struck[]
export const anyStruck = fc.constantFrom(...STRUCK_NAMES)

/** One stroke of a drum at `STRUCK_RATE`; another seed gives another stroke. */
export function struck(name: Struck, seed: number): Float32Array {
  return DRUMS[name](new Random(seed), 0.7)
}

/** One recording as it may lie in another pack: other level, silence in front, tail cut, other rate. */
export function variantOf(samples: Float32Array, gain: number, leadFrames: number, keptPart: number, rate: number): Float32Array {
  const kept = samples.slice(0, Math.round(samples.length * keptPart))
  const out = new Float32Array(leadFrames + kept.length)
  kept.forEach((value, i) => out[leadFrames + i] = value * gain)
  return resample([out], STRUCK_RATE, rate)[0]!
}
