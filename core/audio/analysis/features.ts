import { crossingsOf, sumOf, swingsOf } from '../sweep'
import { BANDS, type BandPowers } from './bands'
import { ATTACK_SECONDS, type Colour } from './colour'
import { highestIn, type Envelope } from './envelope'
import { fftOf, hannWindow, SMALLEST_FFT } from './fft'
import { flatnessOf } from './flatness'
import type { Heard } from './heard'
import { attackOf, beginningOf, burstsOf, crestOf, energyOver, lengthAbove, levelAt, roughnessOf, temporalCentre } from './outline'
import type { Pitch } from './pitch'
import type { Timing } from './timing'

/** Version of the vector below: vectors of different versions can't be compared. */
export const FEATURES_VERSION = 4

/** Upper ends of the stretches of time of the map, in seconds after the beginning of the sound. */
const SLICES = [0.012, 0.03, 0.06, 0.12, 0.25, 0.5, 1]
/** First of the `BANDS` in each row of the map. */
const GROUPS = [0, 3, 6, 9, 12, 14, 16, 18]
const GROUP_OF_BAND = Uint8Array.from({ length: BANDS }, (_, band) => GROUPS.findLastIndex(first => first <= band))
const MAP_RANGE_DB = 60
const MAP = SLICES.length * GROUPS.length

const FINE_BANDS = 24
const FINE_SECONDS = 0.093
const FINE_LATER_SECONDS = 0.004
const FINE_LOWEST_HZ = 40
const FINE_HIGHEST_HZ = 16_000
const FINE_RANGE_DB = 50
const fineEdge = (band: number) => FINE_LOWEST_HZ * (FINE_HIGHEST_HZ / FINE_LOWEST_HZ) ** (band / FINE_BANDS)
const FINE_EDGES = Array.from({ length: FINE_BANDS + 1 }, (_, band) => fineEdge(band))

/**
 * Stretches of the spectrum whose flatness is measured one by one: a bell is tones, a hat is noise. Above the last, a rate of
 * 32 kHz or a lossy codec leaves nothing.
 */
const FLATNESS_HZ = [[200, 800], [800, 3000], [3000, 8000], [8000, 14_000]] as const
const FLATNESS_RANGE_DB = 40
const PARTIAL_BELOW_DB = 20
const MOST_PARTIALS = 40

/** A shorter body counts in part, so that of a sound that ends with its attack a millisecond more or less changes little. */
const WHOLE_BODY_SECONDS = 0.03

/** Moments at which the level is measured, in seconds after the beginning. */
const LEVEL_SECONDS = [0.03, 0.05, 0.1, 0.2, 0.4, 0.8]

const SCALARS = [
  'length to 20 dB below the peak', 'length to 40 dB', 'attack', 'decay', 'temporal centre', 'energy of the first 15 ms', 'energy from 15 to 60 ms', 'bursts within 70 ms', 'roughness',
  'flatness 200-800 Hz', 'flatness 0.8-3 kHz', 'flatness 3-8 kHz', 'flatness 8-14 kHz',
  'partials', 'strongest partial', 'share of the strongest partial', 'second partial over the first',
  'pitch', 'share of the pitch', 'fall of the lows', 'zero crossings of the attack', 'zero crossings of the body',
  'centroid of the attack', 'centroid of the body', 'noisiness of the attack', 'noisiness of the body', 'crest of the first 250 ms',
  ...LEVEL_SECONDS.map(seconds => `level after ${seconds * 1000} ms`),
] as const

/** What each place of the vector holds, in its order. */
export const FEATURE_NAMES: readonly string[] = [
  ...SLICES.flatMap((end, i) => GROUPS.map((_, group) => `band ${group + 1} of ${GROUPS.length}, ${(SLICES[i - 1] ?? 0) * 1000}-${end * 1000} ms`)),
  ...Array.from({ length: FINE_BANDS }, (_, i) => `spectrum around ${Math.round(fineEdge(i + 0.5))} Hz`),
  ...SCALARS,
]

/** Number of values in a vector. */
export const FEATURES = FEATURE_NAMES.length

/** What a vector is drawn from; the parts are measured for the figures anyway. */
export interface Measured {
  readonly heard: Heard
  readonly envelope: Envelope
  readonly powers: BandPowers
  readonly timing: Timing
  readonly attack: Colour | null
  readonly body: Colour | null
  readonly pitch: Pitch | undefined
}

/**
 * A sound as a row of numbers, 0 to 255 each, by which sounds are compared and their kinds told. It starts where the
 * sound begins, and neither level, silence around it, nor sample rate (down to where its top is cut off) change it by much:
 * a map of its power in 8 bands over 7 stretches of time, a spectrum of 24 bands, and 33 single figures (`FEATURE_NAMES`).
 * Sources: Herrera, Yeterian and Gouyon, "Automatic classification of drum sounds" (2002); Peeters, "A large set of audio
 * features" (2004), for the single figures.
 */
export function featuresOf(measured: Measured): Uint8Array {
  const { powers, envelope, heard } = measured
  const start = beginningOf(envelope)
  const fine = fineSpectrum(heard, start + FINE_LATER_SECONDS)
  const vector = new Uint8Array(FEATURES)
  let place = 0
  for (const values of [mapOf(powers, start), bandsOf(fine), scalarsOf(measured, start, fine)]) {
    for (const value of values) vector[place++] = Math.round(255 * Math.max(0, Math.min(1, value)))
  }
  return vector
}

/** Mean power of each group of bands in each stretch of time, over the loudest stretch, -60 to 0 dB as 0 to 1. */
function mapOf(powers: BandPowers, start: number): Float64Array {
  const { values, frames, fromFrame, hop, sampleRate } = powers
  const map = new Float64Array(MAP)
  let frame = Math.max(0, Math.ceil((start * sampleRate - fromFrame) / hop - 1.5))
  let loudest = 0
  for (let slice = 0; slice < SLICES.length; slice++) {
    const row = slice * GROUPS.length
    let count = 0
    for (; frame < frames && (fromFrame + (frame + 1) * hop) / sampleRate < start + SLICES[slice]!; frame++, count++) {
      for (let band = 0; band < BANDS; band++) map[row + GROUP_OF_BAND[band]!]! += values[frame * BANDS + band]!
    }
    let sum = 0
    for (let group = row; group < row + GROUPS.length; group++) sum += map[group]! /= Math.max(1, count)
    loudest = Math.max(loudest, sum)
  }
  for (let i = 0; i < MAP; i++) map[i] = fromRange(map[i]! / loudest, MAP_RANGE_DB)
  return map
}

interface Fine {
  readonly power: Float32Array
  readonly perBin: number
  readonly sum: number
  readonly topHz: number
}

function fineSpectrum({ mono, sampleRate, fromSeconds, topHz }: Heard, startSeconds: number): Fine {
  const size = Math.max(SMALLEST_FFT, 2 ** Math.round(Math.log2(FINE_SECONDS * sampleRate)))
  const power = fftOf(size).power(mono, Math.round((startSeconds - fromSeconds) * sampleRate), hannWindow(size))
  return { power, perBin: sampleRate / size, sum: sumOf(power, 0, power.length), topHz }
}

function bandsOf({ power, perBin, sum }: Fine): Float64Array {
  const bands = new Float64Array(FINE_BANDS)
  for (let band = 0; band < FINE_BANDS && sum > 0; band++) {
    const from = Math.round(FINE_EDGES[band]! / perBin)
    const to = Math.min(power.length, Math.max(from + 1, Math.round(FINE_EDGES[band + 1]! / perBin)))
    let within = 0
    for (let bin = from; bin < to; bin++) within += power[bin]!
    bands[band] = fromRange(within / sum, FINE_RANGE_DB)
  }
  return bands
}

function scalarsOf({ heard: { mono, sampleRate, fromSeconds }, envelope, timing, attack, body, pitch }: Measured, start: number, fine: Fine): number[] {
  const begins = start - fromSeconds
  const energy = energyOver(envelope, start)
  const within = (from: number, to: number) => energy(from, to) / Math.max(1e-20, energy(0, 0.25))
  const { count, first, second } = partialsOf(fine)
  const bodyPart = body ? Math.min(1, (timing.effectiveSeconds - ATTACK_SECONDS) / WHOLE_BODY_SECONDS) : 0
  const [attackCentroid, attackNoisiness] = [onLogScale(attack?.centroidHz ?? 40, 40, 16_000), attack?.noisiness ?? 0]
  const pitchShare = pitch?.share ?? 0
  return [
    onLogScale(lengthAbove(envelope, start, 0.1), 0.005, 2),
    onLogScale(lengthAbove(envelope, start, 0.01), 0.01, 4),
    onLogScale(attackOf(envelope, start), 0.0005, 0.15),
    onLogScale(timing.decaySeconds ?? timing.effectiveSeconds, 0.03, 6),
    onLogScale(temporalCentre(envelope, start), 0.002, 0.8),
    within(0, 0.015),
    within(0.015, 0.06),
    burstsOf(envelope, start) / 8,
    roughnessOf(envelope, start),
    ...FLATNESS_HZ.map(([low, high]) => flatness(fine, low, high)),
    Math.log(1 + count) / Math.log(1 + MOST_PARTIALS),
    first ? onLogScale(first.hz, 40, 12_000) : 0,
    first ? first.power / fine.sum : 0,
    first && second ? 0.5 + Math.log2(second.hz / first.hz) / 6 : 0.5,
    between(0.5, onLogScale(pitch?.hz ?? 25, 25, 4000), pitchShare),
    pitchShare,
    fallOfLows(mono, sampleRate, begins),
    crossings(mono, sampleRate, begins, begins + 0.03),
    crossings(mono, sampleRate, begins + 0.05, begins + 0.2),
    attackCentroid,
    between(attackCentroid, onLogScale(body?.centroidHz ?? 40, 40, 16_000), bodyPart),
    attackNoisiness,
    between(attackNoisiness, body?.noisiness ?? 0, bodyPart),
    crestOf(envelope, start),
    ...LEVEL_SECONDS.map(seconds => fromRange((levelAt(envelope, start + seconds) / envelope.peak) ** 2, 60)),
  ]
}

function between(from: number, to: number, part: number): number {
  return from + (to - from) * part
}

function onLogScale(value: number, low: number, high: number): number {
  return Math.log(Math.max(low, value) / low) / Math.log(high / low)
}

function fromRange(powerRatio: number, rangeDb: number): number {
  return Math.max(0, 1 + 10 * Math.log10(Math.max(1e-12, powerRatio)) / rangeDb)
}

function flatness({ power, perBin, topHz }: Fine, low: number, high: number): number {
  return fromRange(flatnessOf(power, Math.round(low / perBin), Math.round(Math.min(high, topHz) / perBin), 1e-18), FLATNESS_RANGE_DB)
}

interface Partial {
  readonly hz: number
  readonly power: number
}

interface Partials {
  /** `MOST_PARTIALS` at most. */
  readonly count: number
  readonly first: Partial | undefined
  readonly second: Partial | undefined
}

/** Peaks of the fine spectrum that are within 20 dB of its strongest, and the two strongest; each with what lies beside its top. */
function partialsOf({ power, perBin }: Fine): Partials {
  const least = highestIn(power, 0, power.length) * 10 ** (-PARTIAL_BELOW_DB / 10)
  let count = 0
  let first: Partial | undefined
  let second: Partial | undefined
  for (let bin = 2; bin + 2 < power.length; bin++) {
    const value = power[bin]!
    if (value < least || value < power[bin - 1]! || value <= power[bin + 1]! || value < power[bin - 2]! || value <= power[bin + 2]!) continue
    count++
    const whole = power[bin - 2]! + power[bin - 1]! + value + power[bin + 1]! + power[bin + 2]!
    if (second && whole <= second.power) continue
    const found = { hz: bin * perBin, power: whole }
    if (first && whole <= first.power) second = found
    else [first, second] = [found, first]
  }
  return { count: Math.min(count, MOST_PARTIALS), first, second }
}

const EARLY_SECONDS = 0.03
const LATE_SECONDS = 0.06
const LATE_END_SECONDS = 0.14

/** How much faster the lows swing in the first 30 ms than from 60 to 140 ms, 0 to 3 octaves as 0 to 1. */
function fallOfLows(mono: Float32Array, sampleRate: number, start: number): number {
  const from = Math.round(start * sampleRate)
  const end = Math.min(mono.length, from + Math.round(LATE_END_SECONDS * sampleRate))
  const keep = Math.exp(-2 * Math.PI * 250 / sampleRate)
  const [early, late] = swingsOf(mono, keep, from, end, Math.ceil(EARLY_SECONDS * sampleRate), Math.ceil(LATE_SECONDS * sampleRate))
  return late === 0 ? 0 : Math.log2(Math.max(1, early / EARLY_SECONDS / (late / (LATE_END_SECONDS - LATE_SECONDS)))) / 3
}

function crossings(mono: Float32Array, sampleRate: number, from: number, to: number): number {
  const first = Math.round(from * sampleRate)
  const end = Math.min(mono.length, Math.round(to * sampleRate))
  const places = end - first - 1
  return places > 0 ? onLogScale(crossingsOf(mono, first, end) / 2 * sampleRate / places, 40, 12_000) : 0
}
