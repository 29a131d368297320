import { fromDb, toDb } from '../level'
import { sumOf } from '../sweep'
import { firstReaching, highestIn, lastReaching, stepSeconds, stepsIn, type Envelope } from './envelope'

/** When a sound begins, swells, dies away and ends. */
export interface Timing {
  /** Silence before it begins. */
  readonly leadSeconds: number
  /** From its beginning until it first reaches nine tenths of the height of its first quarter of a second. */
  readonly attackSeconds: number
  /** From its beginning until it stays 60 dB below its peak, or in the noise that the recording has without it. */
  readonly effectiveSeconds: number
  /** What follows: silence or noise. */
  readonly tailSeconds: number
  /** Time to fall by 60 dB at the speed of its decay (T30 of ISO 3382); null where it does not decay by 25 dB. */
  readonly decaySeconds: number | null
  /** Level of the recording's own noise over full scale, where its end is nothing but noise. */
  readonly noiseFloorDb: number | null
}

const DEPTH_DB = 60
const ATTACK_WINDOW_SECONDS = 0.25
const ATTACK_PART = 0.9
const FLOOR_SECONDS = 0.1
const FLOOR_APART_SECONDS = 0.4
/** Two stretches of one noise differ by no more than this. */
const FLOOR_EVEN_DB = 2
const FLOOR_BELOW_PEAK_DB = 30
const ABOVE_FLOOR_DB = 6

/** Measures a sound's timing from its envelope; undefined for silence. */
export function timingOf(envelope: Envelope): Timing | undefined {
  const { values, peak } = envelope
  if (peak === 0) return undefined
  const floor = noiseFloor(envelope)
  const threshold = Math.max(peak * fromDb(-DEPTH_DB), (floor ?? 0) * fromDb(ABOVE_FLOOR_DB))
  const first = firstReaching(values, threshold)
  const last = lastReaching(values, threshold)
  const end = stepSeconds(envelope, values.length)
  const leadSeconds = stepSeconds(envelope, first)
  const endSeconds = Math.min(end, stepSeconds(envelope, last + 1))
  return {
    leadSeconds,
    attackSeconds: attack(envelope, first),
    effectiveSeconds: endSeconds - leadSeconds,
    tailSeconds: end - endSeconds,
    decaySeconds: decay(envelope, last),
    noiseFloorDb: floor === undefined ? null : toDb(floor),
  }
}

function attack(envelope: Envelope, first: number): number {
  const height = highestIn(envelope.values, first, first + stepsIn(envelope, ATTACK_WINDOW_SECONDS))
  return stepSeconds(envelope, firstReaching(envelope.values, height * ATTACK_PART, first) - first)
}

/** The end of a recording is noise where it no longer gets quieter: the highest value of its last tenth of a second. */
function noiseFloor(envelope: Envelope): number | undefined {
  const { values, peak } = envelope
  const span = stepsIn(envelope, FLOOR_SECONDS)
  const before = values.length - stepsIn(envelope, FLOOR_APART_SECONDS) - span
  if (before < 0) return undefined
  const mean = (from: number) => sumOf(values, from, from + span) / span
  const [earlier, now] = [mean(before), mean(values.length - span)]
  if (now === 0 || toDb(now / peak) > -FLOOR_BELOW_PEAK_DB || Math.abs(toDb(earlier / now)) > FLOOR_EVEN_DB) return undefined
  return highestIn(values, values.length - span, values.length)
}

/** Slope between 5 and 35 dB (or 25) of the energy that is still to come. Source: ISO 3382, Schroeder (1965). */
function decay(envelope: Envelope, last: number): number | null {
  const { values, peakStep } = envelope
  const left = new Float64Array(Math.max(0, last + 1 - peakStep))
  let sum = 0
  for (let i = left.length - 1; i >= 0; i--) {
    sum += values[peakStep + i]! ** 2
    left[i] = sum
  }
  const whole = left[0] ?? 0
  const fallsBelow = (db: number) => {
    const least = whole * fromDb(-db) ** 2
    let i = 0
    while (i < left.length && left[i]! > least) i++
    return i
  }
  const start = fallsBelow(5)
  for (const depth of [35, 25]) {
    const end = fallsBelow(depth)
    if (end > start && end < left.length) return stepSeconds(envelope, end - start) * 60 / (depth - 5)
  }
  return null
}
