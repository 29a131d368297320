import { z } from 'zod'
import { bounceSpecSchema, HEARD } from '../../contract/bounce'
import { presetTypeSchema } from '../../core/formats/package/kitFile'
import { patternDocumentSchema } from '../../core/groove/document'
import { kitDocumentSchema } from '../../core/kit/migrate'
import { fitSpecSchema, foreignSpecSchema, hearSpecSchema, writeSpecSchema } from '../../contract/fit'
import { markPatchSchema } from '../../contract/marks'

/** What can be asked for as long work. */
export const jobRequestSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('scan'), sourceId: z.int(), title: z.string() }),
  /** Makes the demo's sounds where they are not there yet, brings them in, and stores its presets. */
  z.object({ kind: z.literal('demo'), folder: z.string(), title: z.string() }),
  /** Draws the rows of a source's sounds together anew, after it was renamed or its rules changed. */
  z.object({ kind: z.literal('redraw'), sourceId: z.int(), folder: z.string(), title: z.string() }),
  /** Looks for recordings that lie in the library twice, though not to the sample. */
  z.object({ kind: z.literal('compare'), title: z.string() }),
  /** Sets what a person says of many sounds, takes it back, or does it again. */
  z.object({ kind: z.literal('mark'), patch: markPatchSchema, said: z.string(), title: z.string() }),
  z.object({ kind: z.literal('unmark'), redo: z.boolean(), title: z.string() }),
  /** Copies the sounds of a tray into a folder. */
  z.object({ kind: z.literal('copy'), trayId: z.int(), folder: z.string(), title: z.string() }),
  z.object({ kind: z.literal('unpack'), archive: z.string(), name: z.string(), /** Where it lay before it was copied, if on this machine. */ origin: z.string().optional(), title: z.string() }),
  z.object({
    kind: z.literal('store'),
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
    title: z.string(),
  }),
  /** Checks presets that were found in the vault and that nobody has looked into. */
  z.object({ kind: z.literal('check'), revisions: z.array(z.object({ presetId: z.string(), number: z.int() })), title: z.string() }),
  /** Renders a pattern on a kit into files. */
  z.object({ kind: z.literal('bounce'), spec: bounceSpecSchema, /** Where the files go; null: into the cache, to be downloaded. */ folder: z.string().nullable(), title: z.string() }),
  /** Measures a kit for a target, so that the page can plan. */
  z.object({ kind: z.literal('measure'), kit: fitSpecSchema.shape.kit, target: fitSpecSchema.shape.target, title: z.string() }),
  /** Fits kits to targets and writes them. */
  z.object({ kind: z.literal('fit'), spec: writeSpecSchema, /** As with a bounce. */ folder: z.string().nullable(), title: z.string() }),
  /** Renders a kit as it is, and as a target would have it. */
  z.object({ kind: z.literal('hear'), spec: hearSpecSchema, title: z.string() }),
  /** Brings a kit of another form into the vault. */
  z.object({ kind: z.literal('foreign'), spec: foreignSpecSchema, title: z.string() }),
  z.object({
    kind: z.literal('import'),
    archive: z.string(),
    onConflict: z.enum(['revision', 'rename', 'ask']),
    title: z.string(),
  }),
])

export type JobRequest = z.infer<typeof jobRequestSchema>
