import { mulberry32 } from '../dither'
import { resample } from '../resample'
import { interpolate, sincKernel } from '../sinc'
import { FEATURES } from './features'

/** Mean difference of two vectors, 0 to 255, within which one recording may lie in both. */
export const NEAR_DISTANCE = 9
/** Correlation of two waveforms from which on they are one recording. */
export const SAME_CORRELATION = 0.98

const TABLES = 12
const BITS = 14
const SEED = 41
const COMPARED_RATE = 44_100
const LONGEST_SECONDS = 1
const BEGINNING_SECONDS = 0.05
/** Beginnings that correlate less than this at whole samples do not fit at parts of them either. */
const WORTH_SHIFTING = 0.5
/** Beginnings that correlate less than this are of two recordings. */
const WORTH_LAYING = 0.8
const LEAD_SECONDS = 0.005
const SHIFT_SECONDS = 0.01
const kernel = sincKernel(8, 0.95, 6, 64)
/** Of the shorter one, so much must lie over the other. */
const LEAST_OVERLAP = 0.5

/** Mean absolute difference of two vectors. */
export function featureDistance(a: Uint8Array, b: Uint8Array): number {
  let sum = 0
  for (let i = 0; i < a.length; i++) sum += Math.abs(a[i]! - b[i]!)
  return sum / a.length
}

let planes: Float32Array | undefined

/**
 * Short signatures of a vector, one a table: near vectors share most bits, so that those which share a whole signature in
 * some table are worth comparing. Source: Charikar, "Similarity estimation techniques from rounding algorithms" (2002).
 *
 * @param centre the mean of all vectors
 */
export function signatures(features: Uint8Array, centre: Float64Array): number[] {
  planes ??= randomPlanes()
  const found: number[] = []
  for (let table = 0; table < TABLES; table++) {
    let signature = 0
    for (let bit = 0; bit < BITS; bit++) {
      const row = (table * BITS + bit) * FEATURES
      let sum = 0
      for (let i = 0; i < FEATURES; i++) sum += (features[i]! - centre[i]!) * planes[row + i]!
      signature = signature << 1 | (sum > 0 ? 1 : 0)
    }
    found.push(signature)
  }
  return found
}

function randomPlanes(): Float32Array {
  const random = mulberry32(SEED)
  return Float32Array.from({ length: TABLES * BITS * FEATURES }, () => random() + random() + random() - 1.5)
}

/** Two waveforms laid over each other as well as they go. */
export interface WaveformMatch {
  /** -1 to 1, over what they have in common; its sign is of no account where one is inverted. */
  readonly correlation: number
  /** Level of the second over the first. */
  readonly levelDb: number
  /** How much later the second begins. */
  readonly shiftSeconds: number
}

/** Mono audio with its rate, and where its hit begins. */
export interface Aligned {
  readonly mono: Float32Array
  readonly sampleRate: number
  readonly startSeconds: number
}

/**
 * Compares two waveforms at one rate, from where their hits begin, within 10 ms either way and to an eighth of a sample.
 * Level makes no difference, nor how much of the tail or of the silence before was kept. Where already the
 * beginnings do not fit, the correlation is 0.
 */
export function matchWaveforms({ samples: first }: Prepared, { samples: second }: Prepared): WaveformMatch {
  const reach = Math.round(SHIFT_SECONDS * COMPARED_RATE)
  const begin = Math.round(BEGINNING_SECONDS * COMPARED_RATE)
  const [firstBegin, secondBegin] = [first.subarray(0, begin), second.subarray(0, begin + reach)]
  // High tones match only to a part of a sample, and again a period further on: so all shifts are tried in quarters.
  let coarse = 0
  let place = 0
  for (let quarter = 0; quarter < 4 && (quarter === 0 || coarse >= WORTH_SHIFTING); quarter++) {
    const moved = shifted(secondBegin, quarter / 4)
    for (let shift = -reach; shift <= reach; shift++) {
      const correlation = Math.abs(overlaid(firstBegin, moved, shift)?.correlation ?? 0)
      if (correlation > coarse) [coarse, place] = [correlation, shift + quarter / 4]
    }
  }
  let best = { correlation: 0, levelDb: 0, shiftSeconds: 0 }
  if (coarse < WORTH_LAYING) return best
  for (let step = -1; step <= 1; step++) {
    const fine = place + step / 8
    const match = overlaid(first, shifted(second, fine - Math.floor(fine)), Math.floor(fine))
    if (match && Math.abs(match.correlation) > Math.abs(best.correlation)) best = { ...match, shiftSeconds: fine / COMPARED_RATE }
  }
  return best
}

function shifted(samples: Float32Array, partOfSample: number): Float32Array {
  return partOfSample === 0 ? samples : samples.map((_, i) => interpolate(samples, i + partOfSample, kernel))
}

function overlaid(first: Float32Array, second: Float32Array, shift: number): { correlation: number, levelDb: number } | undefined {
  const from = Math.max(0, -shift)
  const to = Math.min(first.length, second.length - shift)
  if (to - from < LEAST_OVERLAP * Math.min(first.length, second.length)) return undefined
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

/** The beginning of a recording at the rate that recordings are compared at. */
export interface Prepared {
  readonly samples: Float32Array
}

/** Makes a recording ready to be compared; done once for any number of comparisons. */
export function prepareWaveform({ mono, sampleRate, startSeconds }: Aligned): Prepared {
  const from = Math.max(0, Math.round((startSeconds - LEAD_SECONDS) * sampleRate))
  const stretch = mono.subarray(from, from + Math.round(LONGEST_SECONDS * sampleRate))
  return { samples: resample([stretch], sampleRate, COMPARED_RATE)[0]! }
}
