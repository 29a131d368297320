import { firstReaching, highestIn, lastReaching, stepSeconds, stepsIn, type Envelope } from './envelope'

/** A hit begins where it first passes this part of the peak ... */
const BEGUN = 0.1
/** ... taken back to where it rose from, so far at most. */
const ROSE_FROM = 0.03
const LONGEST_RISE_SECONDS = 0.03
const ATTACK_SECONDS = 0.25
const ATTACK_PART = 0.9

/** Where the hit begins to rise: what lies far below it before that is hiss, or the end of something else. */
export function beginningOf(envelope: Envelope): number {
  const { values, peak } = envelope
  const begun = firstReaching(values, peak * BEGUN)
  const reach = stepsIn(envelope, LONGEST_RISE_SECONDS)
  let step = begun
  while (step > 0 && begun - step < reach && values[step - 1]! >= peak * ROSE_FROM) step--
  return stepSeconds(envelope, Math.max(0, step))
}

/** Seconds until the level stays below a part of the peak. */
export function lengthAbove(envelope: Envelope, start: number, part: number): number {
  return Math.max(0, stepSeconds(envelope, lastReaching(envelope.values, envelope.peak * part) + 1) - start)
}

/** Seconds to nine tenths of the height of the first quarter of a second. */
export function attackOf(envelope: Envelope, start: number): number {
  const first = stepOf(envelope, start)
  const height = highestIn(envelope.values, first, first + stepsIn(envelope, ATTACK_SECONDS))
  return stepSeconds(envelope, Math.max(0, firstReaching(envelope.values, height * ATTACK_PART, first) - first))
}

/** Energy of the outline between two moments after the start, in units of its own. */
export function energyOver(envelope: Envelope, start: number): (from: number, to: number) => number {
  return (from, to) => {
    let sum = 0
    const end = Math.min(envelope.values.length, stepOf(envelope, start + to))
    for (let step = stepOf(envelope, start + from); step < end; step++) sum += envelope.values[step]! ** 2
    return sum
  }
}

/** Step at a moment. */
function stepOf(envelope: Envelope, seconds: number): number {
  return Math.round(seconds * envelope.sampleRate / envelope.framesPerStep)
}

/** Centre of gravity of the energy of the first second, in seconds after the start. */
export function temporalCentre(envelope: Envelope, start: number): number {
  const first = stepOf(envelope, start)
  let sum = 0
  let weighted = 0
  for (let step = first; step < Math.min(envelope.values.length, first + stepsIn(envelope, 1)); step++) {
    const power = envelope.values[step]! ** 2
    sum += power
    weighted += power * stepSeconds(envelope, step - first + 0.5)
  }
  return sum > 0 ? weighted / sum : 0
}

/** Number of times that the level rises by 4 dB after it fell by 4 dB, within the first 70 ms: the hands of a clap. */
export function burstsOf(envelope: Envelope, start: number): number {
  const first = stepOf(envelope, start)
  const end = Math.min(envelope.values.length, first + stepsIn(envelope, 0.07))
  let bursts = 0
  let isRising = true
  let extreme = 0
  for (let step = first; step < end; step++) {
    const level = Math.max(envelope.peak * 0.1, envelope.values[step]!, envelope.values[step + 1] ?? 0)
    if (isRising ? level > extreme : level < extreme) extreme = level
    else if (isRising && level < extreme * 0.63) {
      bursts++
      isRising = false
      extreme = level
    }
    else if (!isRising && level > extreme * 1.6) {
      isRising = true
      extreme = level
    }
  }
  return bursts
}

/** How unevenly the level moves from 20 to 300 ms: mean change between stretches of 5 ms, 0 to 10 dB as 0 to 1. */
export function roughnessOf(envelope: Envelope, start: number): number {
  const least = envelope.peak * 0.003
  const first = stepOf(envelope, start + 0.02)
  const span = stepsIn(envelope, 0.005)
  let before = 0
  let sum = 0
  let count = 0
  for (let step = first; step + span <= envelope.values.length && step < first + stepsIn(envelope, 0.28); step += span) {
    let level = 0
    for (let i = 0; i < span; i++) level += envelope.values[step + i]! / span
    if (level < least) break
    if (before > 0) {
      sum += Math.abs(20 * Math.log10(level / before))
      count++
    }
    before = level
  }
  return count > 0 ? sum / count / 10 : 0
}

/** Peak over the mean of the first quarter of a second, 0 to 24 dB as 0 to 1. */
export function crestOf(envelope: Envelope, start: number): number {
  const first = stepOf(envelope, start)
  const count = Math.min(envelope.values.length - first, stepsIn(envelope, 0.25))
  let sum = 0
  for (let i = 0; i < count; i++) sum += envelope.values[first + i]! ** 2
  return sum > 0 ? 10 * Math.log10(envelope.peak ** 2 * count / sum) / 24 : 0
}

/** Highest level within 4 ms of a moment. */
export function levelAt(envelope: Envelope, seconds: number): number {
  const step = stepOf(envelope, seconds)
  let high = 0
  for (let i = -4; i <= 4; i++) high = Math.max(high, envelope.values[step + i] ?? 0)
  return high
}
