import { z } from 'zod'
import { bounceSpecSchema, HEARD } from '../../contract/bounce'
import { fitSpecSchema, foreignSpecSchema, hearSpecSchema, writeSpecSchema } from '../../contract/fit'
import { markPatchSchema } from '../../contract/marks'
import type { JobKind } from '../../contract/jobs'
import { presetTypeSchema } from '../../core/formats/package/kitFile'
import { patternDocumentSchema } from '../../core/groove/document'
import { kitDocumentSchema } from '../../core/kit/migrate'

/** A folder of the user; null: into the cache, to be downloaded. */
const folder = z.string().nullable()

/**
 * What is asked with each kind of long work, beside its title. Apart from `jobKinds.ts`, whose types they are: a thread that does a job
 * would take twice as long to start if it loaded them.
 */
export const JOB_REQUESTS = {
  scan: z.object({ sourceId: z.int() }),
  demo: z.object({ folder: z.string() }),
  redraw: z.object({ sourceId: z.int(), folder: z.string() }),
  compare: z.looseObject({}),
  mark: z.object({ patch: markPatchSchema, said: z.string() }),
  unmark: z.object({ redo: z.boolean() }),
  copy: z.object({ trayId: z.int(), folder: z.string() }),
  unpack: z.object({ archive: z.string(), name: z.string(), /** Where it lay before it was copied, if on this machine. */ origin: z.string().optional() }),
  store: z.object({
    /** The kit at work that is stored; null for what none is. */
    kitId: z.uuid().nullable(),
    /** Absent in jobs of before there were others. */
    type: presetTypeSchema.default('kit'),
    kit: kitDocumentSchema,
    name: z.string(),
    /** Whether mutes and solos that were left on count in its preview. */
    heard: z.enum(HEARD).default('as heard'),
    /** The preset that gets a new revision; without it, a new preset is made. */
    presetId: z.string().nullable(),
    pattern: z.object({ id: z.string(), document: patternDocumentSchema }).optional(),
  }),
  check: z.object({ revisions: z.array(z.object({ presetId: z.string(), number: z.int() })) }),
  bounce: z.object({ spec: bounceSpecSchema, folder }),
  measure: fitSpecSchema.pick({ kit: true, target: true }),
  fit: z.object({ spec: writeSpecSchema, folder }),
  hear: z.object({ spec: hearSpecSchema }),
  foreign: z.object({ spec: foreignSpecSchema }),
  import: z.object({ archive: z.string(), onConflict: z.enum(['revision', 'rename', 'ask']) }),
} as const satisfies Readonly<Record<JobKind, z.ZodType>>

export type JobRequests = typeof JOB_REQUESTS
