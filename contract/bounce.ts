import { z } from 'zod'
import { ASSIGNING } from '../core/groove/assign'
import { MOST_BARS, patternDocumentSchema } from '../core/groove/document'
import { MOST_KITS } from '../core/kit/joinKits'
import { kitDocumentSchema } from '../core/kit/migrate'
import { NAME_PARTS, STEM_WAYS } from '../core/render/stems'
import { get, post } from './endpoint'
import type { JobView } from './jobs'

/** Notes of kits that play along go on above 127. */
export const MOST_NOTE = 128 * MOST_KITS - 1

/** What is rendered of a kit with mutes and solos: what is heard of it, or every pad. */
export const HEARD = ['as heard', 'all pads'] as const

/** What is to be rendered, and how. Kits and pattern are checked where they come in. */
export const bounceSpecSchema = z.object({
  /** The kit, and those that play along. */
  kits: z.array(kitDocumentSchema).min(1).max(MOST_KITS, `Up to ${MOST_KITS} kits are bounced together.`),
  /** Whether mutes and solos that were left on count. */
  heard: z.enum(HEARD).default('as heard'),
  pattern: patternDocumentSchema,
  way: z.enum(ASSIGNING),
  byHand: z.record(z.string().max(40), z.int().min(0).max(MOST_NOTE).nullable()),
  /** Bars from 0, the one after the last. */
  fromBar: z.int().min(0).max(MOST_BARS - 1),
  toBar: z.int().min(1).max(MOST_BARS),
  passes: z.int().min(1).max(64),
  tail: z.enum(['with', 'without', 'folded']),
  depth: z.union([z.literal(16), z.literal(24), z.literal('float')]),
  sampleRate: z.union([z.literal(44_100), z.literal(48_000), z.literal(96_000)]),
  /** One mix, or stems by pad, kind or output. */
  what: z.enum(['mix', ...STEM_WAYS]),
  /** With stems: the mix beside them. */
  withMix: z.boolean(),
  name: z.array(z.enum(NAME_PARTS)).max(NAME_PARTS.length),
})

export type BounceSpec = z.infer<typeof bounceSpecSchema>

/** A file that a bounce wrote. */
export interface BouncedFile {
  readonly name: string
  readonly bytes: number
  /** Null where it is digital silence. */
  readonly peakDb: number | null
  readonly silent: boolean
  readonly seconds: number
}

/** What a bounce gives back. */
export interface Bounced {
  /** The folder with the files; of one file alone, the folder that it lies in. */
  readonly folder: string
  readonly files: readonly BouncedFile[]
  /** By how much all were lowered so that nothing clips; 0 or less. */
  readonly loweredDb: number
  /** Hits that no pad sounds. */
  readonly unheard: number
  /** Sounds of the kit that could not be found: their pads are silent. */
  readonly missing: readonly string[]
  /** What a download is called, for those that went into the cache. */
  readonly download: string | null
}

export type Heard = typeof HEARD[number]

export const bounceRoutes = {
  /** `folder`: null to be downloaded. */
  begin: post('/api/bounce', 'Renders a pattern on a kit into files.', { body: z.object({ spec: bounceSpecSchema, folder: z.string().max(4096).nullable() }) }).answers<JobView<'bounce'>>(),
  file: get('/api/bounce/[id]', 'What was bounced to be downloaded: the file, an archive of several, or one of them by its name.', { params: { id: z.uuid() }, query: z.object({ file: z.string().max(400).optional() }) }).sends(),
}
