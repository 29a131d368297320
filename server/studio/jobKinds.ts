import { z } from 'zod'
import { bounceSpecSchema, HEARD } from '../../contract/bounce'
import { fitSpecSchema, foreignSpecSchema, hearSpecSchema, writeSpecSchema } from '../../contract/fit'
import { markPatchSchema } from '../../contract/marks'
import { presetTypeSchema } from '../../core/formats/package/kitFile'
import { patternDocumentSchema } from '../../core/groove/document'
import { kitDocumentSchema } from '../../core/kit/migrate'
import { counted } from '../../core/wording'
import { jobKind, type JobKinds } from '../jobs/kind'

/** A folder of the user; null: into the cache, to be downloaded. */
const folder = z.string().nullable()

/** Every kind of long work. What each gives back stands in `JobResults` of the contract. */
export const JOB_KINDS = {
  scan: jobKind('scan', {
    schema: z.object({ sourceId: z.int() }),
    title: () => 'Scan a source',
    run: async ({ sourceId }, context) => (await import('../library/scan')).scanSource(sourceId, context),
    isTakenUpAgain: true,
    keepsThread: true,
    onceBy: ({ sourceId }) => String(sourceId),
  }),
  /** Makes the demo's sounds where they are not there yet, brings them in, and stores its presets. */
  demo: jobKind('demo', {
    schema: z.object({ folder: z.string() }),
    title: () => 'Make the demo sounds and kits',
    run: async (asked, context) => (await import('../demo/demoJob')).demoJob(asked, context),
    isTakenUpAgain: true,
    onceBy: () => '',
    writesInto: asked => asked.folder,
  }),
  /** Draws the rows of a source's sounds together anew, after it was renamed or its rules changed. */
  redraw: jobKind('redraw', {
    schema: z.object({ sourceId: z.int(), folder: z.string() }),
    title: asked => `Draw ${asked.folder || 'a source'} together anew`,
    run: async (asked, context) => (await import('../library/redraw')).redraw(asked, context),
    isTakenUpAgain: true,
  }),
  /** Looks for recordings that lie in the library twice, though not to the sample. */
  compare: jobKind('compare', {
    schema: z.looseObject({}),
    title: () => 'Find near-duplicates',
    run: async (_asked, context) => (await import('../library/compare')).compareSounds(context),
    isTakenUpAgain: true,
  }),
  /** Sets what a person says of many sounds. */
  mark: jobKind('mark', {
    schema: z.object({ patch: markPatchSchema, said: z.string() }),
    title: ({ patch, said }) => `Set for ${counted(patch.ids.length, 'sound')}: ${said}`,
    run: async ({ patch, said }, context) => (await import('../library/markJob')).markJob(patch, said, context),
  }),
  /** Takes back what was set of many sounds, or does it again. */
  unmark: jobKind('unmark', {
    schema: z.object({ redo: z.boolean() }),
    title: ({ redo }) => redo ? 'Do again' : 'Take back',
    run: async ({ redo }, context) => (await import('../library/markJob')).unmarkJob(redo, context),
  }),
  /** Copies the sounds of a tray into a folder. */
  copy: jobKind('copy', {
    schema: z.object({ trayId: z.int(), folder: z.string() }),
    title: asked => `Copy the tray into ${asked.folder}`,
    run: async (asked, context) => (await import('../library/copies')).copyTray(asked, context),
    writesInto: asked => asked.folder,
  }),
  unpack: jobKind('unpack', {
    schema: z.object({ archive: z.string(), name: z.string(), /** Where it lay before it was copied, if on this machine. */ origin: z.string().optional() }),
    title: ({ name }) => `Unpack ${name}`,
    run: async (asked, context) => (await import('../library/unpack')).unpackArchive(asked, context),
    isTakenUpAgain: true,
    needs: ({ archive }) => [archive],
    next: ({ sourceId, name }) => ({ kind: 'scan', sourceId, title: `Bring in ${name}` }),
  }),
  store: jobKind('store', {
    schema: z.object({
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
    title: ({ name }) => `Store ${name}`,
    run: async (asked, context) => (await import('../vault/storeJob')).storeJob(asked, context),
  }),
  /** Checks presets that were found in the vault and that nobody has looked into. */
  check: jobKind('check', {
    schema: z.object({ revisions: z.array(z.object({ presetId: z.string(), number: z.int() })) }),
    title: ({ revisions }) => `Check ${counted(revisions.length, 'preset')} found in the vault`,
    run: async (asked, context) => (await import('../vault/checkJob')).checkPresets(asked, context),
    isTakenUpAgain: true,
  }),
  /** Renders a pattern on a kit into files. */
  bounce: jobKind('bounce', {
    schema: z.object({ spec: bounceSpecSchema, folder }),
    title: ({ spec }) => `Bounce ${spec.pattern.name}`,
    run: async (asked, context) => (await import('../bounce/bounceJob')).bounceJob(asked, context),
    keepsThread: true,
    writesInto: asked => asked.folder,
  }),
  /** Measures a kit for a target, so that the page can plan. */
  measure: jobKind('measure', {
    schema: fitSpecSchema.pick({ kit: true, target: true }),
    title: ({ target }) => `Measure for ${target.name}`,
    run: async (asked, context) => (await import('../fit/fitJobs')).measureJob(asked, context),
    keepsThread: true,
  }),
  /** Fits kits to targets and writes them. */
  fit: jobKind('fit', {
    schema: z.object({ spec: writeSpecSchema, folder }),
    title: ({ spec: { targets } }) => `Write for ${targets.length === 1 ? targets[0]!.name : counted(targets.length, 'target')}`,
    run: async (asked, context) => (await import('../fit/fitJobs')).writeJob(asked, context),
    keepsThread: true,
    writesInto: asked => asked.folder,
  }),
  /** Renders a kit as it is, and as a target would have it. */
  hear: jobKind('hear', {
    schema: z.object({ spec: hearSpecSchema }),
    title: ({ spec }) => `Hear what ${spec.target.name} makes of it`,
    run: async (asked, context) => (await import('../fit/fitJobs')).hearJob(asked, context),
    keepsThread: true,
  }),
  /** Brings a kit of another form into the vault. */
  foreign: jobKind('foreign', {
    schema: z.object({ spec: foreignSpecSchema }),
    title: ({ spec }) => `Read ${spec.preset ?? 'a kit'} into the vault`,
    run: async (asked, context) => (await import('../fit/fitJobs')).foreignJob(asked, context),
    needs: ({ spec }) => [spec.path],
  }),
  import: jobKind('import', {
    schema: z.object({ archive: z.string(), onConflict: z.enum(['revision', 'rename', 'ask']) }),
    title: () => 'Import a kit package',
    run: async (asked, context) => (await import('../vault/importPackage')).importPackage(asked, context),
    needs: ({ archive }) => [archive],
  }),
} as const satisfies JobKinds

export type StudioJobKinds = typeof JOB_KINDS
