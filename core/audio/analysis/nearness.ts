import { FEATURE_NAMES, FEATURES } from './features'

/**
 * Differences of a value count up to this, of 255. A copy at another rate differs much in a few values, another sound a little in
 * many: of 48 sounds of the demo, copies at 48 kHz were nearest 38 times of 48, and 35 times with differences counted whole.
 */
const MOST_DIFFERENCE = 12
/** Mean of these at which two sounds have nothing more in common than any two have. */
const STRANGE = 10

const LENGTH = /^(length|attack|decay|temporal|energy|bursts|crest|level)/
const PITCH = /^(pitch|strongest partial|second partial|fall of the lows)/

const placesWhere = (isSo: (name: string) => boolean) => Int32Array.from(FEATURE_NAMES.flatMap((name, place) => isSo(name) ? [place] : []))
const GROUPS = {
  length: placesWhere(name => LENGTH.test(name)),
  pitch: placesWhere(name => PITCH.test(name)),
  colour: placesWhere(name => !LENGTH.test(name) && !PITCH.test(name)),
}

/** How near a sound is to another, and in what: 1 is the same, 0 is no nearer than any two sounds are. */
export interface Nearness {
  readonly whole: number
  readonly length: number
  readonly colour: number
  readonly pitch: number
}

/** Compares two vectors (`featuresOf`), which may lie in longer rows of bytes. */
export function nearness(a: Uint8Array, b: Uint8Array): Nearness {
  return {
    whole: fromDistance(distanceWithin(a, b)),
    length: fromDistance(distanceOver(a, b, GROUPS.length)),
    colour: fromDistance(distanceOver(a, b, GROUPS.colour)),
    pitch: fromDistance(distanceOver(a, b, GROUPS.pitch)),
  }
}

/** What a difference counts, by the difference and 255. */
const COUNTED = Uint8Array.from({ length: 511 }, (_, i) => Math.min(MOST_DIFFERENCE, Math.abs(i - 255)))

/** Sum of the differences of a vector and one that begins at a place of a row of vectors; stops once it is over a limit. */
export function rowDistance(vector: Uint8Array, rows: Uint8Array, from: number, limit: number): number {
  let sum = 0
  for (let i = 0; i < FEATURES; i++) {
    sum += COUNTED[vector[i]! - rows[from + i]! + 255]!
    if ((i & 15) === 15 && sum > limit) return sum
  }
  return sum
}

function distanceWithin(a: Uint8Array, b: Uint8Array): number {
  return rowDistance(a, b, 0, Infinity) / FEATURES
}

function distanceOver(a: Uint8Array, b: Uint8Array, places: Int32Array): number {
  let sum = 0
  for (const place of places) sum += COUNTED[a[place]! - b[place]! + 255]!
  return sum / places.length
}

function fromDistance(distance: number): number {
  return Math.max(0, 1 - distance / STRANGE)
}
