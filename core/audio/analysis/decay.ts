import { fromDb } from '../level'
import { stepSeconds, stepsIn, type Envelope } from './envelope'

const DEPTHS = [35, 25]
const WHOLE_DEPTHS = [35, 25, 15]
/** What is left at the end is told by what so much of it held. */
const BLOCK_SECONDS = 0.02
const END_PARTS = 4
const ENDED = 10
const ROUNDS = 50
const SETTLED = 1e-3
/** Natural logarithm of a power 60 dB higher. */
const LN_OF_60_DB = 6 * Math.LN10

/**
 * Seconds to fall by 60 dB, of the outline until a step, by the slope between 5 and 35 dB (or 25) of the energy still to come, in whole
 * steps: as vectors hold it. Source: ISO 3382, Schroeder (1965).
 */
export function outlineDecay(envelope: Envelope, last: number): number | null {
  const energies = new Float64Array(Math.max(0, last + 1 - envelope.peakStep))
  for (let i = 0; i < energies.length; i++) energies[i] = envelope.values[envelope.peakStep + i]! ** 2
  return slopeOf(envelope, energyToCome(energies, 0), 0, DEPTHS, Math.ceil)?.t60 ?? null
}

/**
 * Seconds to fall by 60 dB, of a sound as if it had not been cut off, or drowned, after some steps: what would still have come is added,
 * by the slope that is found with it. The slope is that between 5 and 35 dB (or 25, or 15) of the energy still to come. Null where that
 * finds no end, as with tones that are held. Source: ISO 3382-1 (2009), 5.3.3, the correction for the end of the integration (from memory).
 *
 * @param energies of the steps from the peak to the last that counts, in any unit
 * @param noise how much of that of each step is noise
 */
export function wholeDecay(envelope: Envelope, energies: Float64Array, noise: number): number | null {
  const left = energyToCome(energies, noise)
  const steps = Math.min(left.length, stepsIn(envelope, BLOCK_SECONDS))
  const lastBlock = hasEnded(left, steps) ? 0 : left[left.length - steps] ?? 0
  let slope = slopeOf(envelope, left, 0, WHOLE_DEPTHS)
  for (let round = 0; round < ROUNDS && slope; round++) {
    const { t60, depth } = slope
    // Every block has so much less than the one before; together those to come are a geometric series.
    const rest = lastBlock / Math.expm1(LN_OF_60_DB * stepSeconds(envelope, steps) / t60)
    // Never deeper again: between two depths, each out of reach by what the other adds, it would not settle.
    slope = slopeOf(envelope, left, rest, WHOLE_DEPTHS.filter(least => least <= depth))
    if (slope && Math.abs(slope.t60 - t60) < t60 * SETTLED) return slope.t60
  }
  return null
}

/** True when a sound ends by itself: the last part of its last steps has hardly any of their energy. */
function hasEnded(left: Float64Array, steps: number): boolean {
  const part = Math.ceil(steps / END_PARTS)
  return (left[left.length - part] ?? 0) * ENDED < (left[left.length - steps] ?? 0) * part / steps
}

/** Sums of the energies of all steps from each one on, without so much noise in each. */
function energyToCome(energies: Float64Array, noise: number): Float64Array {
  const left = new Float64Array(energies.length)
  let sum = 0
  for (let i = left.length - 1; i >= 0; i--) left[i] = sum += energies[i]! - noise
  return left
}

/** How steeply the energy still to come falls. */
interface Slope {
  /** Seconds to fall by 60 dB. */
  readonly t60: number
  /** Decibels down to which it was followed. */
  readonly depth: number
}

/** The slope from 5 dB down to the first of the depths that is reached. */
function slopeOf(envelope: Envelope, left: Float64Array, rest: number, depths: readonly number[], rounded = (step: number) => step): Slope | null {
  const whole = (left[0] ?? 0) + rest
  const at = (db: number) => rounded(fallsBelow(left, rest, whole * fromDb(-db) ** 2))
  const start = at(5)
  for (const depth of depths) {
    const end = at(depth)
    if (end > start && end <= left.length - 1) return { t60: stepSeconds(envelope, end - start) * 60 / (depth - 5), depth }
  }
  return null
}

/** The place between two steps at which what is left falls to so much; their number where it does not. */
function fallsBelow(left: Float64Array, rest: number, least: number): number {
  let i = 0
  while (i < left.length && left[i]! + rest > least) i++
  if (i === 0 || i === left.length) return i
  const [before, after] = [Math.log(left[i - 1]! + rest), Math.log(Math.max(Number.MIN_VALUE, left[i]! + rest))]
  return i - (Math.log(least) - after) / (before - after)
}
