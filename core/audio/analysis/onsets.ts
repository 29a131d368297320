import { bandLevelsOf, type BandLevels } from './bandLevels'
import { BANDS, type BandPowers } from './bands'
import { highestIn, stepSeconds, stepsIn, type Envelope } from './envelope'

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
/** Hits closer than this are one: a flam, the hands of a clap. */
const SHORTEST_GAP_SECONDS = 0.05
const RISE_FRAMES = 3
/** About 30 ms. */
const BEFORE_FRAMES = 5
/** In hops from its beginning, where in the frame that rises most a hit began: rather early than late, so that a slice keeps its beginning. */
const SEEN_AT = 0.75
const BACKTRACK_SECONDS = 0.02
/** How many times the way back is looked at for how steeply the level rises by itself. */
const USUAL_REACHES = 4
const OVER_USUAL = 2.5
const SLOWEST_SWELL_SECONDS = 0.25
const LAST_SECONDS = 0.025
const JUST_BEFORE_SECONDS = 0.025
/** How exactly a beginning is found: what lies as close before it may be of the hit itself. */
const WITHIN_SECONDS = 0.005
const FALLEN_PART = 0.85

/** What a hit has to be, at least, to be told from what goes on by itself. */
interface Least {
  readonly flux: number
  /** Rise of the level of some part of the spectrum. */
  readonly riseDb: number
}

const CLEAR: Least = { flux: 0.12, riseDb: 9 }
/** So many clear hits are a pattern, in which softer ones are to be expected: one hit's rattle is none. */
const PATTERN_HITS = 6
const SOFT: Least = { flux: 0.08, riseDb: 7 }

/** A sound in which hits are looked for. */
interface Searched {
  readonly powers: BandPowers
  readonly levels: BandLevels
  readonly envelope: Envelope
  readonly startSeconds: number
  readonly endSeconds: number
}

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
  const searched: Searched = { powers, levels: bandLevelsOf(powers, RANGE_DB), envelope, startSeconds, endSeconds }
  const clear = beginningsIn(searched, CLEAR)
  const starts = clear.length < PATTERN_HITS ? clear : beginningsIn(searched, SOFT)
  return starts.map((start, i) => ({ startSeconds: start, endSeconds: starts[i + 1] ?? endSeconds }))
}

function beginningsIn({ powers, levels, envelope, startSeconds, endSeconds }: Searched, least: Least): number[] {
  const { sampleRate, hop, fromFrame, frames } = powers
  const secondsAt = (frame: number) => (fromFrame + frame * hop) / sampleRate
  const starts = [startSeconds]
  for (let frame = 1; frame < frames; frame++) {
    if (!isPeak(levels.flux, frame, least.flux) || !rises(levels, frame, frames, least.riseDb)) continue
    const seconds = riseStart(envelope, secondsAt(frame + 0.5)) ?? secondsAt(frame + SEEN_AT)
    // Where a sound is cut off its spectrum spreads as if something began.
    if (seconds > endSeconds - LAST_SECONDS) break
    const since = seconds - starts.at(-1)!
    if (since >= SHORTEST_GAP_SECONDS && (since > SLOWEST_SWELL_SECONDS || hasFallen(envelope, starts.at(-1)!, seconds - WITHIN_SECONDS))) starts.push(seconds)
  }
  return starts
}

function isPeak(flux: Float32Array, frame: number, least: number): boolean {
  const value = flux[frame]!
  if (value < least || value < (flux[frame - 1] ?? 0)) return false
  // What makes a frame rise may come some frames later: then that one is the hit.
  for (let i = 1; i < RISE_FRAMES; i++) if (value <= (flux[frame + i] ?? 0)) return false
  const around = flux.slice(Math.max(0, frame - MEDIAN_FRAMES), frame + MEDIAN_FRAMES + 1).sort()
  return value >= around[around.length >> 1]! * OVER_MEDIAN
}

/** True when some third of the spectrum is clearly louder just after than at any time just before. */
function rises(levels: BandLevels, frame: number, count: number, leastDb: number): boolean {
  const least = leastDb / RANGE_DB
  const part = Math.ceil(BANDS / 3)
  for (let low = 0; low < BANDS; low += part) {
    const mean = (at: number) => levels.meanOfHighest(Math.max(0, Math.min(count - 1, at)), low, Math.min(BANDS, low + part), BANDS_OF_LEVEL)
    // Looking back over a whole period of the lowest tones, since within it a buzz rises and falls as hits do; past the frame before, which may hold part of the hit.
    let before = 0
    for (let i = 2; i <= BEFORE_FRAMES + 1; i++) before = Math.max(before, mean(frame - i))
    let after = 0
    for (let i = 0; i < RISE_FRAMES; i++) after = Math.max(after, mean(frame + i))
    if (after - before >= least) return true
  }
  return false
}

/** True when the level has fallen since the last hit: otherwise what rises is still the swell of that one. */
function hasFallen(envelope: Envelope, sinceSeconds: number, atSeconds: number): boolean {
  const at = stepsIn(envelope, atSeconds)
  const level = (from: number, to: number) => highestIn(envelope.values, from, to)
  return level(at - stepsIn(envelope, JUST_BEFORE_SECONDS), at) < FALLEN_PART * level(stepsIn(envelope, sinceSeconds), at)
}

/**
 * Goes back from about an onset to where the level began to rise, to the millisecond. Undefined where it rises hardly more than it
 * did just before by itself: beneath what still sounds, a hit is seen by its spectrum alone.
 */
function riseStart(envelope: Envelope, aboutSeconds: number): number | undefined {
  const { values } = envelope
  const about = Math.min(values.length - 1, stepsIn(envelope, aboutSeconds))
  const reach = stepsIn(envelope, BACKTRACK_SECONDS)
  const first = Math.max(0, about - reach)
  const top = steepest(values, first, about + reach / 2)
  const usual = riseAt(values, steepest(values, about - USUAL_REACHES * reach, first - 1))
  if (riseAt(values, top) <= usual * OVER_USUAL) return undefined
  let step = top
  while (step > Math.max(0, top - reach) && values[step - 1]! < values[step]! * 0.7) step--
  return stepSeconds(envelope, step)
}

function riseAt(values: Float32Array, step: number): number {
  return values[step]! - (values[step - 1] ?? 0)
}

/** The step at which values rise most. */
function steepest(values: Float32Array, from: number, to: number): number {
  let top = Math.max(0, from)
  for (let step = top; step <= Math.min(values.length - 1, to); step++) if (riseAt(values, step) > riseAt(values, top)) top = step
  return top
}
