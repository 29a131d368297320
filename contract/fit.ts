import { z } from 'zod'
import type { SampleMeasure } from '../core/fit/measure'
import { targetSchema, type Target } from '../core/fit/target'
import type { Usage } from '../core/fit/usage'
import { kitDocumentSchema } from '../core/kit/migrate'
import { ARRANGING } from '../core/fit/arrange'
import { IMPORTANCES } from '../core/fit/plan'
import { NUMBERINGS } from '../core/formats/samples/numbering'
import { patternDocumentSchema } from '../core/groove/document'
import { get, post, put, remove } from './endpoint'
import { middleCSchema, pathSchema } from './ids'
import type { JobView } from './jobs'

/** Forms that a kit can come in. */
export type ForeignFormat = 'SoundFont' | 'DLS' | 'SFZ' | 'sample set' | 'kit package' | 'archive'

/** One of several kits in a file. */
export interface ForeignChoice {
  readonly name: string
  /** `bank:program`, where the format counts so. */
  readonly place: string
}

export interface ForeignListing {
  readonly format: ForeignFormat
  readonly name: string
  /** More than one only in banks and collections. */
  readonly choices: readonly ForeignChoice[]
}

/** The measures of a kit for a target: for each filled pad, by its index, those of its samples. */
export type KitMeasures = Readonly<Record<number, readonly SampleMeasure[]>>

/** A kit to be fitted: a preset of the vault, or a kit as it stands. */
export const kitToFitSchema = z.union([
  z.object({ presetId: z.string().min(1).max(80), revision: z.int().min(1).optional() }),
  z.object({ kit: kitDocumentSchema }),
])

/** Two renderings of the same: as the kit is, and as the target would have it, brought to one loudness. */
export interface HeardFit {
  readonly id: string
  readonly seconds: number
  /** Added to the second, so that both are equally loud. */
  readonly matchedDb: number
  /** Level of the difference of the two, under the first. */
  readonly differenceDb: number
}

export type KitToFit = z.infer<typeof kitToFitSchema>

export interface ReadForeign {
  readonly presetId: string
  readonly name: string
  readonly remarks: readonly string[]
  readonly missing: readonly string[]
}

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

/** A target, and whether it is the user's own. */
export interface TargetView {
  readonly target: Target
  readonly isOwn: boolean
}

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
  path: pathSchema,
  preset: z.string().max(200).optional(),
  numbering: z.enum(NUMBERINGS).optional(),
  middleC: middleCSchema,
  /** What was uploaded for this alone is taken away afterwards. */
  isUpload: z.boolean().optional(),
})
export type ForeignSpec = z.infer<typeof foreignSpecSchema>

const id = z.uuid()

export const fitRoutes = {
  measure: post('/api/fit/measures', 'Measures a kit for a target.', { body: fitSpecSchema.pick({ kit: true, target: true }) }).answers<JobView<'measure'>>(),
  measures: get('/api/fit/measures/[id]', 'The measures that a job took.', { params: { id } }).streams<KitMeasures>(),
  hear: post('/api/fit/hear', 'Renders a kit before and after.', { body: hearSpecSchema }).answers<JobView<'hear'>>(),
  heard: get('/api/fit/heard/[id]/[which]', 'One of the renderings of a kit before and after.', { params: { id, which: z.enum(['before', 'after', 'difference']) } }).sends(),
  /** `folder`: null to be downloaded. */
  write: post('/api/fit/write', 'Fits kits to targets and writes them.', { body: z.object({ spec: writeSpecSchema, folder: z.string().max(4096).nullable() }) }).answers<JobView<'fit'>>(),
  file: get('/api/fit/[id]', 'What was written to be downloaded.', { params: { id } }).sends(),
  listForeign: post('/api/foreign/list', 'What kits a file or folder holds.', { body: z.object({ path: z.string().trim().min(1).max(4096) }) }).answers<ForeignListing & { readonly path: string }>(),
  importForeign: post('/api/foreign/import', 'Brings a kit of another form into the vault.', { body: foreignSpecSchema }).answers<JobView<'foreign'>>(),
  uploadedForeign: post('/api/foreign/uploaded', 'Ends an upload of a kit in another form; answers with the path of its only file, or of its folder.', { body: z.object({ id, name: z.string().trim().min(1).max(200) }) }).answers<{ readonly path: string }>(),
}

const targetParams = { id: targetSchema.shape.id }

export const targetRoutes = {
  list: get('/api/targets', 'Every target, those of the user among them, and files that could not be understood.').answers<{ readonly targets: readonly TargetView[], readonly problems: readonly string[] }>(),
  save: put('/api/targets/[id]', 'Keeps a target of the user.', { params: targetParams, body: targetSchema }).answers<Target>(),
  remove: remove('/api/targets/[id]', 'Deletes a target of the user.', { params: targetParams }).answers<{ readonly deleted: boolean }>(),
}
