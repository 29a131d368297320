import { fromDb, toDb } from '../level'
import { energyOf, stepEnergiesOf, sumOf } from '../sweep'
import { outlineDecay, wholeDecay } from './decay'
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
  /** Time to fall by 60 dB at the speed of its decay (T30 of ISO 3382, or of a shorter fall); null where it does not decay by 15 dB. */
  readonly decaySeconds: number | null
  /** RMS level of the recording's own noise over full scale, where its end is nothing but noise. */
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

/** Stretches in which the level is followed down into noise. */
const BLOCK_SECONDS = 0.02
/** Of noise their powers differ by no more than this: what decays by 60 dB within 3 s differs by more. */
const BRIEF_EVEN = 1.45
/** Where a sound is as loud as the noise beneath it, both together are twice as much. */
const WITH_NOISE = 2

/**
 * Measures a sound's timing from its envelope, as long as it stands clear of the noise of its recording; undefined for silence.
 * What is measured of its spectrum is measured there; how long it sounds, see `wholeTiming`.
 */
export function timingOf(envelope: Envelope): Timing | undefined {
  const { values, peak } = envelope
  if (peak === 0) return undefined
  const floor = noiseFloor(envelope)
  const threshold = leastClear(peak, floor ?? 0)
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
    decaySeconds: outlineDecay(envelope, last),
    noiseFloorDb: floor === undefined ? null : toDb(floor),
  }
}

/** The level over which a sound stands clear of its silence and noise. */
function leastClear(peak: number, floor: number): number {
  return Math.max(peak * fromDb(-DEPTH_DB), floor * fromDb(ABOVE_FLOOR_DB))
}

/** The same for the sound as it would be told by itself: until it is no louder than the noise that it dies away in, its decay as if it were whole. */
export function wholeTiming(clear: Timing, envelope: Envelope, channels: readonly Float32Array[]): Timing {
  const { values, sampleRate, framesPerStep } = envelope
  const frames = channels[0]?.length ?? 0
  const isBrief = clear.noiseFloorDb === null && endsInBriefNoise(envelope, channels)
  const noise = isBrief || clear.noiseFloorDb !== null ? powerIn(channels, Math.max(0, frames - Math.round(FLOOR_SECONDS * sampleRate)), frames) : 0
  const lastClear = isBrief ? lastReaching(values, leastClear(envelope.peak, floorOf(envelope))) : stepsIn(envelope, clear.leadSeconds + clear.effectiveSeconds) - 1
  // The outline ends with a whole step, the sound within it.
  const last = Math.min(lastClear, Math.floor(frames / framesPerStep) - 1)
  const energies = stepEnergiesOf(channels, framesPerStep, envelope.peakStep * framesPerStep, (last + 1) * framesPerStep)
  const decaySeconds = wholeDecay(envelope, energies, noise * channels.length * framesPerStep)
  if (noise === 0) return { ...clear, decaySeconds }
  const endSeconds = endInNoise(envelope, channels, (last + 1) * framesPerStep, noise) / sampleRate
  return { ...clear, decaySeconds, effectiveSeconds: endSeconds - clear.leadSeconds, tailSeconds: frames / sampleRate - endSeconds, noiseFloorDb: toDb(Math.sqrt(noise)) }
}

/** True of a file that is too short to be compared with itself long before, where its end is even and far below its peak. */
function endsInBriefNoise(envelope: Envelope, channels: readonly Float32Array[]): boolean {
  const frames = channels[0]?.length ?? 0
  const block = Math.round(BLOCK_SECONDS * envelope.sampleRate)
  const count = Math.round(FLOOR_SECONDS / BLOCK_SECONDS)
  if (frames >= (FLOOR_SECONDS + FLOOR_APART_SECONDS) * envelope.sampleRate || frames < count * block) return false
  if (floorOf(envelope) >= envelope.peak * fromDb(-FLOOR_BELOW_PEAK_DB)) return false
  const powers = Array.from({ length: count }, (_, i) => powerIn(channels, frames - (i + 1) * block, frames - i * block))
  return Math.min(...powers) > 0 && Math.max(...powers) <= Math.min(...powers) * BRIEF_EVEN
}

/** The frame at which a sound that still stands clear of noise at one is no louder than it, or 60 dB below its peak. */
function endInNoise({ values, framesPerStep, sampleRate, peak }: Envelope, channels: readonly Float32Array[], clearFrames: number, noise: number): number {
  const block = Math.round(BLOCK_SECONDS * sampleRate)
  const least = peak * fromDb(-DEPTH_DB)
  let end = clearFrames
  while (end + block <= channels[0]!.length
    && powerIn(channels, end, end + block) > noise * WITH_NOISE
    && highestIn(values, Math.floor(end / framesPerStep), Math.ceil((end + block) / framesPerStep)) >= least) end += block >> 1
  return end
}

/** Mean square of all channels. */
function powerIn(channels: readonly Float32Array[], from: number, to: number): number {
  let sum = 0
  for (const channel of channels) sum += energyOf(channel.subarray(from, to))
  return sum / channels.length / (to - from)
}

function attack(envelope: Envelope, first: number): number {
  const height = highestIn(envelope.values, first, first + stepsIn(envelope, ATTACK_WINDOW_SECONDS))
  return stepSeconds(envelope, firstReaching(envelope.values, height * ATTACK_PART, first) - first)
}

/** The highest value of the last tenth of a second. */
function floorOf(envelope: Envelope): number {
  return highestIn(envelope.values, envelope.values.length - stepsIn(envelope, FLOOR_SECONDS), envelope.values.length)
}

/** The end of a recording is noise where it no longer gets quieter. */
function noiseFloor(envelope: Envelope): number | undefined {
  const { values, peak } = envelope
  const span = stepsIn(envelope, FLOOR_SECONDS)
  const before = values.length - stepsIn(envelope, FLOOR_APART_SECONDS) - span
  if (before < 0) return undefined
  const mean = (from: number) => sumOf(values, from, from + span) / span
  const [earlier, now] = [mean(before), mean(values.length - span)]
  if (now === 0 || toDb(now / peak) > -FLOOR_BELOW_PEAK_DB || Math.abs(toDb(earlier / now)) > FLOOR_EVEN_DB) return undefined
  return floorOf(envelope)
}
