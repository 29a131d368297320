import { z } from 'zod'
import { ASSIGNING, type ByHand } from '../../core/groove/assign'
import { MOST_BARS, type Pattern } from '../../core/groove/document'
import type { Kit } from '../../core/kit/document'
import { NAME_PARTS, STEM_WAYS } from '../../core/render/stems'

/** What is to be rendered, and how. Kits and pattern are checked where they come in. */
export const bounceSpecSchema = z.object({
  /** The kit, and those that play along. */
  kits: z.array(z.custom<Kit>()).min(1).max(8),
  pattern: z.custom<Pattern>(),
  way: z.enum(ASSIGNING),
  byHand: z.custom<ByHand>(),
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
  readonly peakDb: number
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
