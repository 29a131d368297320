import { resample } from '../resample'
import { interpolate, sincKernel } from '../sinc'

const COMPARED_RATE = 44_100
/** Less than what this rate holds is too little to tell recordings apart by. */
const LOWEST_RATE = 8000
const LONGEST_SECONDS = 1
const BEGINNING_SECONDS = 0.05
/** Beginnings that correlate less than this at whole samples do not fit at parts of them either. */
const WORTH_SHIFTING = 0.5
/** Beginnings that correlate less than this are of two recordings. */
const WORTH_LAYING = 0.8
/** What whole samples must reach, of the best of them, for parts of one beside them to be tried. */
const GOOD_PART = 0.7
const LEAD_SECONDS = 0.005
const SHIFT_SECONDS = 0.01
const kernel = sincKernel(8, 0.95, 6, 64)
/** Of the shorter one, so much must lie over the other. */
const LEAST_OVERLAP = 0.5
/** Of the sample before, in the differences: highs weigh about as much as lows then. */
const BEFORE_PART = 0.97

/** Two waveforms laid over each other as well as they go. */
export interface WaveformMatch {
  /** -1 to 1, over what they have in common; its sign is of no account where one is inverted. */
  readonly correlation: number
  /** The same of the differences from sample to sample: two strokes of one skin share its tone, but not the noise of the touch. */
  readonly edgeCorrelation: number
  /** Level of the second over the first. */
  readonly levelDb: number
  /** How much later the second begins. */
  readonly shiftSeconds: number
}

const NO_MATCH: WaveformMatch = { correlation: 0, edgeCorrelation: 0, levelDb: 0, shiftSeconds: 0 }

/**
 * True where two waveforms are one recording: they fit nearly everywhere, with room for the noise of 8 bits among their
 * highs, or they fit well in lows and highs alike, as what was stored with loss does.
 */
export function isOneRecording({ correlation, edgeCorrelation }: WaveformMatch): boolean {
  const [whole, edges] = [Math.abs(correlation), Math.abs(edgeCorrelation)]
  return (whole >= 0.98 && edges >= 0.8) || (whole >= 0.96 && edges >= 0.94)
}

/** Mono audio with its rate, and where its hit begins. */
export interface Aligned {
  readonly mono: Float32Array
  readonly sampleRate: number
  readonly startSeconds: number
}

/**
 * Compares two waveforms, as far as the lower of their rates can hold them, from where their hits begin, within 10 ms either
 * way and to an eighth of a sample. Level makes no difference, nor how much of the tail or of the silence before was kept.
 * Where already the beginnings do not fit, the correlation is 0.
 */
export function matchWaveforms(a: Prepared, b: Prepared): WaveformMatch {
  const holding = Math.min(a.sampleRate, b.sampleRate)
  const [first, second] = [a.within(holding), b.within(holding)]
  const { correlation, place } = placeOfBeginnings(first, second)
  if (correlation < WORTH_LAYING) return NO_MATCH
  const whole = Math.floor(place)
  const moved = shifted(second, place - whole)
  const match = overlaid(first, moved, whole)
  if (!match) return NO_MATCH
  const edges = overlaid(edgesOf(first), edgesOf(moved), whole)
  return { ...match, edgeCorrelation: edges?.correlation ?? 0, shiftSeconds: place / COMPARED_RATE }
}

interface Place {
  readonly correlation: number
  /** How far the second is moved against the first, in samples. */
  readonly place: number
}

/** How far the second is to be moved for the beginnings to fit best, to an eighth of a sample. */
function placeOfBeginnings(first: Float32Array, second: Float32Array): Place {
  const reach = Math.round(SHIFT_SECONDS * COMPARED_RATE)
  const begin = Math.round(BEGINNING_SECONDS * COMPARED_RATE)
  const [a, b] = [first.subarray(0, begin), second.subarray(0, begin + reach)]
  const powers = sumsOfSquares(a)
  const tryAt = (part: number, shifts: readonly number[]) => {
    const moved = shifted(b, part)
    const movedPowers = sumsOfSquares(moved)
    return shifts.map((shift): Place => {
      const [from, to] = overlap(a, moved, shift)
      const power = (powers[to]! - powers[from]!) * (movedPowers[to + shift]! - movedPowers[from + shift]!)
      if (to <= from || power <= 0) return { correlation: 0, place: shift + part }
      let product = 0
      for (let i = from; i < to; i++) product += a[i]! * moved[i + shift]!
      return { correlation: Math.abs(product) / Math.sqrt(power), place: shift + part }
    })
  }
  const atWhole = tryAt(0, Array.from({ length: 2 * reach + 1 }, (_, i) => i - reach))
  const best = bestOf(atWhole)
  if (best.correlation < WORTH_SHIFTING) return best
  // High tones match only to a part of a sample, and again a period further on: so the best place may lie beside any good one.
  const good = atWhole.filter(({ correlation }) => correlation >= GOOD_PART * best.correlation).flatMap(({ place }) => [place - 1, place])
  const shifts = [...new Set(good)]
  const quarters = [0.25, 0.5, 0.75].flatMap(part => tryAt(part, shifts))
  const near = bestOf([best, ...quarters])
  const eighths = [-1 / 8, 1 / 8].flatMap((step) => {
    const whole = Math.floor(near.place + step)
    return tryAt(near.place + step - whole, [whole])
  })
  return bestOf([near, ...eighths])
}

function bestOf(places: readonly Place[]): Place {
  return places.reduce((best, one) => one.correlation > best.correlation ? one : best)
}

/** Sum of the squares before each place, and of all. */
function sumsOfSquares(samples: Float32Array): Float64Array {
  const sums = new Float64Array(samples.length + 1)
  for (let i = 0; i < samples.length; i++) sums[i + 1] = sums[i]! + samples[i]! * samples[i]!
  return sums
}

function shifted(samples: Float32Array, partOfSample: number): Float32Array {
  return partOfSample === 0 ? samples : samples.map((_, i) => interpolate(samples, i + partOfSample, kernel))
}

function edgesOf(samples: Float32Array): Float32Array {
  return samples.map((value, i) => value - BEFORE_PART * (samples[i - 1] ?? 0))
}

/** Where both lie over each other, counted in the first; nothing where that is too little of the shorter one. */
function overlap(first: Float32Array, second: Float32Array, shift: number): readonly [from: number, to: number] {
  const from = Math.max(0, -shift)
  const to = Math.min(first.length, second.length - shift)
  return to - from < LEAST_OVERLAP * Math.min(first.length, second.length) ? [0, 0] : [from, to]
}

function overlaid(first: Float32Array, second: Float32Array, shift: number): { correlation: number, levelDb: number } | undefined {
  const [from, to] = overlap(first, second, shift)
  let product = 0
  let powerA = 0
  let powerB = 0
  for (let i = from; i < to; i++) {
    const x = first[i]!
    const y = second[i + shift]!
    product += x * y
    powerA += x * x
    powerB += y * y
  }
  if (powerA === 0 || powerB === 0) return undefined
  return { correlation: product / Math.sqrt(powerA * powerB), levelDb: 10 * Math.log10(powerB / powerA) }
}

/** The beginning of a recording, ready for any number of comparisons. */
export class Prepared {
  /** Its own, or what it is taken for. */
  readonly sampleRate: number
  private readonly samples: Float32Array
  private readonly limited = new Map<number, Float32Array>()

  constructor({ mono, sampleRate, startSeconds }: Aligned) {
    const from = Math.max(0, Math.round((startSeconds - LEAD_SECONDS) * sampleRate))
    const stretch = mono.slice(from, from + Math.round(LONGEST_SECONDS * sampleRate))
    this.sampleRate = Math.max(LOWEST_RATE, Math.min(sampleRate, COMPARED_RATE))
    this.samples = resample([stretch], sampleRate, COMPARED_RATE)[0]!
  }

  /** Its samples, all at one rate, without what another rate could not hold. */
  within(rate: number): Float32Array {
    if (rate >= this.sampleRate) return this.samples
    const known = this.limited.get(rate)
    if (known) return known
    const made = resample(resample([this.samples], COMPARED_RATE, rate), rate, COMPARED_RATE)[0]!
    this.limited.set(rate, made)
    return made
  }
}
