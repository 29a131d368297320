import type { Envelope, Filter, Pad } from '../../kit/document'

/** Something that a format or a kit has no words for, told to the user. */
export interface NotCarried {
  /** Where it stood: a pad, a region, an opcode. */
  readonly where: string
  /** What was not carried over, and what stands in its place. A full sentence. */
  readonly what: string
  /** How much it matters: something is lost, it sounds different, or nobody hears it. `changed` by default. */
  readonly loss?: Loss
  /** The sounds that it concerns, if it is about particular ones. */
  readonly of?: readonly string[]
}

export type Loss = 'lost' | 'changed' | 'unheard'
const LOSSES: readonly Loss[] = ['lost', 'changed', 'unheard']

/** What was not carried over, what is lost first and what nobody hears last; otherwise as it came. */
export function byLoss(all: readonly NotCarried[]): NotCarried[] {
  const rank = ({ loss = 'changed' }: NotCarried) => LOSSES.indexOf(loss)
  return all.toSorted((a, b) => rank(a) - rank(b))
}

/** A sample that zones refer to, by its place among them. */
export interface ZoneSample {
  readonly name: string
  readonly frames: number
  readonly sampleRate: number
  readonly channels: number
}

/**
 * One region of a sampler's instrument in the terms that SFZ, SoundFont and DLS share, with every value resolved: what
 * the formats are read into, and what makes a kit. Levels and times are those of the kit document.
 */
export interface Zone {
  /** Place of its sample in the list that comes with the zones. */
  readonly sample: number
  /** What its pad is called; empty where the format says nothing. */
  readonly name: string
  readonly lowNote: number
  readonly highNote: number
  /** The note at which the sample sounds at its own pitch. */
  readonly rootNote: number
  /** Cents a note: 100 follows the keys, 0 sounds the same on all. */
  readonly keytrackCents: number
  readonly lowVelocity: number
  readonly highVelocity: number
  readonly fadeInVelocities: number
  readonly fadeOutVelocities: number
  readonly gainDb: number
  readonly pan: number
  readonly tuneCents: number
  readonly startFrame: number
  /** Frame after the last that sounds. */
  readonly endFrame: number
  readonly fadeInFrames: number
  readonly fadeOutFrames: number
  readonly reverse: boolean
  readonly play: 'one-shot' | 'gated'
  readonly envelope: Envelope
  readonly filter: Filter | null
  readonly chokeGroup: number | null
  /** Groups that cut it off; null: its own. */
  readonly chokedBy: readonly number[] | null
  readonly chokeSeconds: number
  readonly velocityTrack: number
  readonly velocityCurve: Pad['velocityCurve']
  /** Its place from 1 among zones that take turns. */
  readonly turn: number | null
  /** Of a number drawn at each hit, 0 to 1, where it sounds. */
  readonly chance: { readonly low: number, readonly high: number } | null
  /** Values of a controller from which on and up to which it sounds: alternates. */
  readonly choice: { readonly controller: number, readonly low: number, readonly high: number } | null
  /** The articulation of the instrument that it sounds in. */
  readonly articulation: string | null
  /** Place of its output, from 0. */
  readonly output: number
  readonly polyphony: number | null
}

/** What a format leaves open of a zone: none of it is out of the usual. */
export const PLAIN_ZONE = {
  fadeInVelocities: 0, fadeOutVelocities: 0, fadeInFrames: 0, fadeOutFrames: 0, reverse: false, chokeGroup: null, chokedBy: null, chokeSeconds: 0,
  velocityTrack: 1, velocityCurve: null, turn: null, chance: null, choice: null, articulation: null, output: 0, polyphony: null,
} satisfies Partial<Zone>
