import { z } from 'zod'
import { ARRANGING } from '../../core/fit/arrange'
import { IMPORTANCES } from '../../core/fit/plan'
import { targetSchema } from '../../core/fit/target'
import type { Usage } from '../../core/fit/usage'
import { NUMBERINGS } from '../../core/formats/samples/numbering'
import { patternDocumentSchema } from '../../core/groove/document'
import { kitDocumentSchema } from '../../core/kit/migrate'

const holdSchema = z.object({ stereo: z.boolean(), length: z.boolean(), bandwidth: z.boolean(), layers: z.boolean(), pad: z.boolean() }).partial()

/** What a user fixed of pads, by their indexes. */
export const wishesSchema = z.object({
  holds: z.record(z.coerce.number(), holdSchema),
  importance: z.record(z.coerce.number(), z.enum(IMPORTANCES)),
})

/** A kit to be fitted: a preset of the vault, or a kit as it stands. */
export const kitToFitSchema = z.union([
  z.object({ presetId: z.string().min(1).max(80), revision: z.int().min(1).optional() }),
  z.object({ kit: kitDocumentSchema }),
])
export type KitToFit = z.infer<typeof kitToFitSchema>

/** One target for one kit, as it was planned. */
export const fitSpecSchema = z.object({
  kit: kitToFitSchema,
  target: targetSchema,
  wishes: wishesSchema,
  way: z.enum(ARRANGING),
})
export type FitSpec = z.infer<typeof fitSpecSchema>

/** Kits for targets, each with each, to be written. */
export const writeSpecSchema = z.object({
  kits: z.array(kitToFitSchema).min(1).max(200),
  targets: z.array(targetSchema).min(1).max(50),
  wishes: wishesSchema,
  /** Null: as is usual for each target. */
  way: z.enum(ARRANGING).nullable(),
  withoutMissing: z.boolean(),
})
export type WriteSpec = z.infer<typeof writeSpecSchema>

/** What is to be heard before and after. */
export const hearSpecSchema = fitSpecSchema.extend({ pattern: patternDocumentSchema.nullable() })
export type HearSpec = z.infer<typeof hearSpecSchema>

/** A kit of another form to be brought into the vault. */
export const foreignSpecSchema = z.object({
  path: z.string().min(1).max(4096),
  preset: z.string().max(200).optional(),
  numbering: z.enum(NUMBERINGS).optional(),
  middleC: z.enum(['C3', 'C4']),
  /** What was uploaded for this alone is taken away afterwards. */
  isUpload: z.boolean().optional(),
})
export type ForeignSpec = z.infer<typeof foreignSpecSchema>

/** What came of one kit for one target. */
export interface WrittenFit {
  readonly kit: string
  readonly target: string
  readonly folder: string | null
  readonly files: number
  readonly bytes: number
  readonly before: Usage | null
  readonly after: Usage | null
  readonly outcome: string
  readonly missing: readonly string[]
  /** Why nothing was written, in whole sentences. */
  readonly error: string | null
}

export interface WrittenFits {
  readonly folder: string
  readonly items: readonly WrittenFit[]
  /** What a download is called, for those that went into the cache. */
  readonly download: string | null
}

/** Two renderings of the same: as the kit is, and as the target would have it, brought to one loudness. */
export interface HeardFit {
  readonly id: string
  readonly seconds: number
  /** Added to the second, so that both are equally loud. */
  readonly matchedDb: number
  /** Level of the difference of the two, under the first. */
  readonly differenceDb: number
}

export interface ReadForeign {
  readonly presetId: string
  readonly name: string
  readonly remarks: readonly string[]
  readonly missing: readonly string[]
}
