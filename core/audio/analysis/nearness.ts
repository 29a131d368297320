import { FEATURE_NAMES } from './features'

/**
 * Differences of a value count up to this, of 255. A copy at another rate differs much in a few values, another sound a little in
 * many: of 48 sounds of the demo, copies at 48 kHz were nearest 38 times of 48, and 35 times with differences counted whole.
 */
export const MOST_DIFFERENCE = 12
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
    whole: fromDistance(distanceOver(a, b, ALL)),
    length: fromDistance(distanceOver(a, b, GROUPS.length)),
    colour: fromDistance(distanceOver(a, b, GROUPS.colour)),
    pitch: fromDistance(distanceOver(a, b, GROUPS.pitch)),
  }
}

const ALL = Int32Array.from(FEATURE_NAMES, (_, place) => place)

function distanceOver(a: Uint8Array, b: Uint8Array, places: Int32Array): number {
  let sum = 0
  for (const place of places) sum += Math.min(MOST_DIFFERENCE, Math.abs(a[place]! - b[place]!))
  return sum / places.length
}

function fromDistance(distance: number): number {
  return Math.max(0, 1 - distance / STRANGE)
}
