import { bandLevelsOf, type BandLevels } from './bandLevels'
import { BANDS, type BandPowers } from './bands'
import type { Envelope } from './envelope'
import { highestIn, stepSeconds, stepsIn } from './envelope'

/** One hit in a file: where it begins to rise, and where the next one or the end of the sound comes. */
export interface Hit {
  readonly startSeconds: number
  readonly endSeconds: number
}

/** How many bands, the strongest, speak for a third of them. */
const BANDS_OF_LEVEL = 4
/** How far below the loudest moment of its band something still counts. */
const RANGE_DB = 45
const MEDIAN_FRAMES = 12
const OVER_MEDIAN = 1.6
const LEAST_FLUX = 0.12
/** Hits closer than this are one: a flam, the hands of a clap. */
const SHORTEST_GAP_SECONDS = 0.05
/** A hit raises the level of some part of the spectrum at least so much. */
const LEAST_RISE_DB = 9
const RISE_FRAMES = 3
/** About 30 ms. */
const BEFORE_FRAMES = 5
const BACKTRACK_SECONDS = 0.02
const SLOWEST_SWELL_SECONDS = 0.25
const LAST_SECONDS = 0.025
const JUST_BEFORE_SECONDS = 0.025
const FALLEN_PART = 0.85

/**
 * Finds where hits begin: peaks of the spectral flux over a threshold that follows its median, taken back to the
 * start of the rise. The beginning of the sound itself is always the first.
 * Source: Dixon, "Onset detection revisited" (DAFx 2006), spectral flux with peak picking; Bello et al., "A tutorial on
 * onset detection in music signals" (2005), adaptive threshold.
 *
 * @param powers measured from `startSeconds` to `endSeconds`
 * @param startSeconds, endSeconds of the sound, without silence before and after it
 */
export function hitsOf(powers: BandPowers, envelope: Envelope, startSeconds: number, endSeconds: number): Hit[] {
  const { sampleRate, hop, fromFrame: from, frames: count } = powers
  const levels = bandLevelsOf(powers, RANGE_DB)
  const starts = [startSeconds]
  for (let frame = 1; frame < count; frame++) {
    if (!isPeak(levels.flux, frame) || !rises(levels, frame, count)) continue
    const seconds = riseStart(envelope, (from + frame * hop + hop / 2) / sampleRate)
    // Where a sound is cut off its spectrum spreads as if something began.
    if (seconds > endSeconds - LAST_SECONDS) break
    const since = seconds - starts.at(-1)!
    if (since >= SHORTEST_GAP_SECONDS && (since > SLOWEST_SWELL_SECONDS || hasFallen(envelope, starts.at(-1)!, seconds))) starts.push(seconds)
  }
  return starts.map((start, i) => ({ startSeconds: start, endSeconds: starts[i + 1] ?? endSeconds }))
}

function isPeak(flux: Float32Array, frame: number): boolean {
  const value = flux[frame]!
  if (value < LEAST_FLUX || value < (flux[frame - 1] ?? 0) || value <= (flux[frame + 1] ?? 0)) return false
  const around = flux.slice(Math.max(0, frame - MEDIAN_FRAMES), frame + MEDIAN_FRAMES + 1).sort()
  return value >= around[around.length >> 1]! * OVER_MEDIAN
}

/** True when some third of the spectrum is clearly louder just after than at any time just before. */
function rises(levels: BandLevels, frame: number, count: number): boolean {
  const least = LEAST_RISE_DB / RANGE_DB
  const part = Math.ceil(BANDS / 3)
  for (let low = 0; low < BANDS; low += part) {
    const mean = (at: number) => levels.meanOfHighest(Math.max(0, Math.min(count - 1, at)), low, Math.min(BANDS, low + part), BANDS_OF_LEVEL)
    // Looking back over a whole period of the lowest tones, since within it a buzz rises and falls as hits do.
    let before = 0
    for (let i = 1; i <= BEFORE_FRAMES; i++) before = Math.max(before, mean(frame - i))
    let after = 0
    for (let i = 0; i < RISE_FRAMES; i++) after = Math.max(after, mean(frame + i))
    if (after - before >= least && after >= 1 / 3) return true
  }
  return false
}

/** True when the level has fallen since the last hit: otherwise what rises is still the swell of that one. */
function hasFallen(envelope: Envelope, sinceSeconds: number, atSeconds: number): boolean {
  const at = stepsIn(envelope, atSeconds)
  const level = (from: number, to: number) => highestIn(envelope.values, from, to)
  return level(at - stepsIn(envelope, JUST_BEFORE_SECONDS), at) < FALLEN_PART * level(stepsIn(envelope, sinceSeconds), at)
}

/** Goes back from about an onset to where the level began to rise, to the millisecond. */
function riseStart(envelope: Envelope, aboutSeconds: number): number {
  const { values } = envelope
  const about = Math.min(values.length - 1, stepsIn(envelope, aboutSeconds))
  const reach = stepsIn(envelope, BACKTRACK_SECONDS)
  let top = about
  for (let step = Math.max(0, about - reach); step <= Math.min(values.length - 1, about + reach / 2); step++) {
    if (values[step]! - (values[step - 1] ?? 0) > values[top]! - (values[top - 1] ?? 0)) top = step
  }
  let step = top
  while (step > Math.max(0, top - reach) && values[step - 1]! < values[step]! * 0.7) step--
  return stepSeconds(envelope, step)
}
