import { z } from 'zod'
import { EmporionError, firstIssueOf, messageOf } from '../errors'
import { text } from '../text'

/** The version of the pattern document that this code writes. */
export const PATTERN_SCHEMA_VERSION = 1
/** Ticks of a quarter note. */
export const TICKS_PER_QUARTER = 960
export const MOST_BARS = 256
export const MOST_PARTS = 128
/** Hits of a pattern, all parts together. */
export const MOST_HITS = 20_000
export const SLOWEST_BPM = 5
export const FASTEST_BPM = 400
/** A bar of the widest metre, times the most bars, and as much again for hits that lie beyond the end. */
const LAST_TICK = 2 ** 28

export const hitSchema = z.strictObject({
  /** Where it sounds, from the beginning of the pattern, before the pattern's swing. */
  tick: z.int().min(0).max(LAST_TICK),
  velocity: z.int().min(1).max(127),
  /** In ticks: when the key is let go, for pads that are gated. */
  length: z.int().min(1).max(LAST_TICK),
  /** Which of a pad's alternates; absent: the one that the pad has chosen. */
  alternate: z.int().min(0).max(127).optional(),
  /** Where it was played before it was quantized; absent where it was not. */
  playedTick: z.int().min(0).max(LAST_TICK).optional(),
})

export const partSchema = z.strictObject({
  id: z.string().min(1).max(40),
  name: text(120),
  /** The kind of sound that it is meant for: the pad is looked for by it. */
  role: text(60).nullable(),
  /** The note it is played by, where no pad has its role. */
  note: z.int().min(0).max(127),
  /** In the order of their ticks. */
  hits: z.array(hitSchema).max(MOST_HITS),
}).refine(part => part.hits.every((hit, i) => i === 0 || part.hits[i - 1]!.tick <= hit.tick), 'The hits of a part are not in order.')

export const metreSchema = z.strictObject({
  beats: z.int().min(1).max(32),
  /** The note value of a beat: 4 is a quarter. */
  unit: z.union([1, 2, 4, 8, 16, 32].map(unit => z.literal(unit)) as [z.ZodLiteral<number>, z.ZodLiteral<number>]),
})

export const swingSchema = z.strictObject({
  /** Where the second of each pair of steps falls, in percent of the pair: 50 is straight, 66.7 a triplet. */
  percent: z.number().min(50).max(75),
  /** The steps that are paired: 8 eighths, 16 sixteenths. */
  step: z.union([z.literal(8), z.literal(16)]),
})

const PATTERN_SHAPE = {
  schema: z.literal(PATTERN_SCHEMA_VERSION),
  name: text(120).min(1),
  tempoBpm: z.number().min(SLOWEST_BPM).max(FASTEST_BPM),
  metre: metreSchema,
  bars: z.int().min(1).max(MOST_BARS),
  swing: swingSchema,
}

export const patternSchema = z.strictObject({ ...PATTERN_SHAPE, parts: z.array(partSchema).max(MOST_PARTS) })
  .refine(pattern => new Set(pattern.parts.map(part => part.id)).size === pattern.parts.length, 'Two parts have the same name within the document.')
  .refine(pattern => pattern.parts.reduce((sum, part) => sum + part.hits.length, 0) <= MOST_HITS, `A pattern has ${MOST_HITS} hits at most.`)

export type Hit = Readonly<z.infer<typeof hitSchema>>
export type Metre = Readonly<z.infer<typeof metreSchema>>
export type Swing = Readonly<z.infer<typeof swingSchema>>
export type Part = Readonly<Omit<z.infer<typeof partSchema>, 'hits'>> & { readonly hits: readonly Hit[] }
export type Pattern = Readonly<Omit<z.infer<typeof patternSchema>, 'parts'>> & { readonly parts: readonly Part[] }

export const STRAIGHT: Swing = { percent: 50, step: 16 }

/** Bars with nothing in them. */
export function emptyPattern(name: string, bars = 2): Pattern {
  return { schema: PATTERN_SCHEMA_VERSION, name, tempoBpm: 110, metre: { beats: 4, unit: 4 }, bars, swing: STRAIGHT, parts: [] }
}

/** Length of a bar in ticks. */
export function barTicks({ beats, unit }: Metre): number {
  return TICKS_PER_QUARTER * 4 * beats / unit
}

/** Length of a beat, as the metre counts it, in ticks. */
export function beatTicks({ unit }: Metre): number {
  return TICKS_PER_QUARTER * 4 / unit
}

/** Length of a pattern in ticks. */
export function lengthTicks(pattern: Pick<Pattern, 'metre' | 'bars'>): number {
  return barTicks(pattern.metre) * pattern.bars
}

/** Length of a pattern in seconds. */
export function lengthSeconds(pattern: Pick<Pattern, 'metre' | 'bars' | 'tempoBpm'>): number {
  return lengthTicks(pattern) / TICKS_PER_QUARTER * 60 / pattern.tempoBpm
}

/** Hits of all parts. */
export function countHits(pattern: Pick<Pattern, 'parts'>): number {
  return pattern.parts.reduce((sum, part) => sum + part.hits.length, 0)
}

/** A tempo as it is kept: to a hundredth of a beat, within what a pattern may have. */
export function clampTempo(bpm: number): number {
  return Math.max(SLOWEST_BPM, Math.min(FASTEST_BPM, Math.round(bpm * 100) / 100))
}

/**
 * Reads a pattern document.
 *
 * @throws EmporionError `unsupported` when a newer Emporion wrote it; `invalid` when it is no whole pattern
 */
export function parsePattern(value: unknown): Pattern {
  const version = z.object({ schema: z.int() }).safeParse(value)
  if (version.success && version.data.schema > PATTERN_SCHEMA_VERSION) {
    throw new EmporionError('unsupported', { what: `This pattern was written by a newer Emporion (document version ${version.data.schema}).`, kept: 'It was not changed.', next: 'Open it with that version.' })
  }
  const parsed = patternSchema.safeParse(value)
  if (parsed.success) return parsed.data
  throw new EmporionError('invalid', { what: `This is not a valid pattern: ${firstIssueOf(parsed.error)}.`, kept: 'Nothing was changed.' })
}

/** A pattern document within something larger that is checked. */
export const patternDocumentSchema = z.custom<Pattern>().transform((value: unknown, context): Pattern => {
  try {
    return parsePattern(value)
  }
  catch (thrown) {
    context.addIssue({ code: 'custom', message: messageOf(thrown) })
    return z.NEVER
  }
})
