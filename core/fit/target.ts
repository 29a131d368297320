import { z } from 'zod'
import { MOST_PADS } from '../kit/document'
import type { Limits } from '../kit/limits'
import { PART_NAMES } from '../formats/samples/naming'
import { SAMPLE_DEPTHS } from '../formats/write'

/** The version of the target document that this code writes. */
export const TARGET_SCHEMA_VERSION = 1

/** What a target can do by itself with a sound; `low-pass` is a filter of that type without a peak, `pan` that of mono sounds, `layer settings` pan, envelope and filter of single layers. What it cannot is put into the samples where that is possible, and told where it is not. */
export const FEATURES = [
  'gain', 'pan', 'stereo pan', 'tune', 'filter', 'low-pass', 'drive', 'envelope', 'layer settings', 'reverse', 'stacks', 'crossfade', 'alternates', 'chance', 'note ranges', 'velocity curve',
  'chokes', 'one-way chokes', 'articulations', 'gated', 'pad polyphony', 'group polyphony', 'outputs',
] as const
export type Feature = typeof FEATURES[number]

/** How a kit is written for a target. */
export const WRITERS = ['samples', 'sfz', 'sf2', 'dls-1', 'dls-2', 'package'] as const
export type Writer = typeof WRITERS[number]

const note = z.int().min(0).max(127)
const depthSchema = z.literal(SAMPLE_DEPTHS)

const padsSchema = z.strictObject({ banks: z.int().min(1).max(128), inBank: z.int().min(1).max(128), columns: z.int().min(1).max(16) })

const notesSchema = z.strictObject({
  first: note,
  last: note,
  /** `fixed`: the first pad has the first note, the next the one after it. `free`: any pad can have any of them. */
  way: z.enum(['fixed', 'free']),
})

const audioSchema = z.strictObject({
  /** Rates in Hz, the best one first; none: any up to the highest. */
  rates: z.array(z.int().min(4_000).max(384_000)).max(12),
  highestRate: z.int().min(4_000).max(384_000),
  depths: z.array(depthSchema).min(1).max(SAMPLE_DEPTHS.length),
  channels: z.union([z.literal(1), z.literal(2)]),
  /** Pads with the same sound use one sample. */
  shares: z.boolean(),
})

const limitsSchema = z.strictObject({
  seconds: z.number().positive().max(1e6).nullable(),
  bytes: z.int().positive().nullable(),
  /** How the maker counts: MB are 10^6 bytes, MiB 2^20. */
  unit: z.enum(['MB', 'MiB']),
  longestSeconds: z.number().positive().max(1e5).nullable(),
  samples: z.int().positive().nullable(),
})

const namesSchema = z.strictObject({
  parts: z.array(z.enum(PART_NAMES)).min(1).max(PART_NAMES.length),
  separator: z.string().max(3).regex(/^[ \-_.]*$/, 'Names are joined by spaces, hyphens, dots or underlines.'),
  longest: z.int().min(4).max(120),
  case: z.enum(['as it is', 'upper', 'lower']),
  characters: z.enum(['letters, digits and signs', 'letters and digits']),
})

/** The limits of a format or a device, as data. */
export const targetSchema = z.strictObject({
  schema: z.literal(TARGET_SCHEMA_VERSION),
  id: z.string().regex(/^[a-z0-9][a-z0-9-]{0,59}$/, 'A target is named with small letters, digits and hyphens.'),
  name: z.string().trim().min(1).max(60),
  about: z.string().max(400),
  writes: z.enum(WRITERS),
  pads: padsSchema,
  notes: notesSchema,
  /** Velocity ranges of a pad. */
  layers: z.int().min(1).max(128),
  /** Takes of one velocity range that follow one another; 1: none. */
  turns: z.int().min(1).max(128),
  holds: z.array(z.enum(FEATURES)).max(FEATURES.length),
  chokeGroups: z.int().min(0).max(127),
  polyphony: z.int().min(1).max(256).nullable(),
  audio: audioSchema,
  limits: limitsSchema,
  names: namesSchema,
  /** What becomes of the target's pads that the kit has no sound for. */
  empty: z.enum(['kept', 'erased']),
  /** A file that tells what is what is written along. */
  index: z.boolean(),
  middleC: z.enum(['C3', 'C4']),
}).refine(target => target.notes.first <= target.notes.last, { error: 'The first note lies above the last.', path: ['notes', 'first'] })
  .refine(target => target.pads.banks * target.pads.inBank <= MOST_PADS, { error: `A kit has ${MOST_PADS} pads at most.`, path: ['pads', 'banks'] })
  .refine(target => target.notes.way === 'free' || target.notes.last - target.notes.first + 1 >= slotsOf(target), { error: 'There are fewer notes than pads that have them.', path: ['notes', 'last'] })
  .refine(target => target.writes === 'samples' || target.audio.depths.every(depth => depth !== 12 && depth !== 8), { error: 'Only sets of samples are written with 8 or 12 bits.', path: ['audio', 'depths'] })
  .refine(target => target.audio.rates.every(rate => rate <= target.audio.highestRate), { error: 'A rate lies above the highest.', path: ['audio', 'rates'] })

type Read<T> = T extends (infer U)[] ? readonly Read<U>[] : T extends object ? { readonly [K in keyof T]: Read<T[K]> } : T
export type Target = Read<z.infer<typeof targetSchema>>

/** How many pads with sounds it takes. */
export function slotsOf({ pads }: { readonly pads: { readonly banks: number, readonly inBank: number } }): number {
  return pads.banks * pads.inBank
}

export function holds(target: Pick<Target, 'holds'>, feature: Feature): boolean {
  return target.holds.includes(feature)
}

/** True for a target that takes a kit as it is, with all its settings and its samples untouched. */
export function isLossless({ writes }: Pick<Target, 'writes'>): boolean {
  return writes === 'package'
}

/** What the bench needs to know of a target. */
export function limitsOf({ id, name, pads, notes, layers, turns }: Target): Limits {
  return { id, name, columns: pads.columns, rows: Math.ceil(pads.inBank / pads.columns), pads: pads.banks * pads.inBank, lowNote: notes.first, highNote: notes.last, layers: layers * turns }
}

/** The label of a pad of a target: bank letter and number within the bank. */
export function slotLabel({ pads }: Pick<Target, 'pads'>, slot: number): string {
  const bank = Math.floor(slot / pads.inBank)
  const number = slot % pads.inBank + 1
  return pads.banks === 1 ? String(number) : `${bankLetter(bank)}${number}`
}

/** A to Z, then AA and so on. */
export function bankLetter(bank: number): string {
  return (bank >= 26 ? String.fromCharCode(64 + Math.floor(bank / 26)) : '') + String.fromCharCode(65 + bank % 26)
}
