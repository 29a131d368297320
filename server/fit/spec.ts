import { z } from 'zod'
import { ARRANGING } from '../../core/fit/arrange'
import { IMPORTANCES } from '../../core/fit/plan'
import { targetSchema } from '../../core/fit/target'
import { NUMBERINGS } from '../../core/formats/samples/numbering'
import { patternDocumentSchema } from '../../core/groove/document'
import { kitToFitSchema } from '../../contract/fit'

const holdSchema = z.object({ stereo: z.boolean(), length: z.boolean(), bandwidth: z.boolean(), layers: z.boolean(), pad: z.boolean() }).partial()

/** What a user fixed of pads, by their indexes. */
export const wishesSchema = z.object({
  holds: z.record(z.coerce.number(), holdSchema),
  importance: z.record(z.coerce.number(), z.enum(IMPORTANCES)),
})

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
