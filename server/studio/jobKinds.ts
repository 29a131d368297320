import type { z } from 'zod'
import type { JobKind } from '../../contract/jobs'
import { counted } from '../../core/wording'
import { jobKind, type JobDeclaration, type JobKinds, type TypedKind } from '../jobs/kind'
import type { JobRequests } from './jobRequests'

const kind = <K extends JobKind>(declared: JobDeclaration<K, z.output<JobRequests[K]>>): TypedKind<z.output<JobRequests[K]>> => jobKind(declared)

/** Every kind of long work. What each gives back stands in `JobResults` of the contract. */
export const JOB_KINDS = {
  scan: kind<'scan'>({
    title: () => 'Scan a source',
    run: async ({ sourceId }, context) => (await import('../library/scan')).scanSource(sourceId, context),
    isTakenUpAgain: true,
    keepsThread: true,
    onceBy: ({ sourceId }) => String(sourceId),
  }),
  /** Makes the demo's sounds where they are not there yet, brings them in, and stores its presets. */
  demo: kind<'demo'>({
    title: () => 'Make the demo sounds and kits',
    run: async (asked, context) => (await import('../demo/demoJob')).demoJob(asked, context),
    isTakenUpAgain: true,
    onceBy: () => '',
    writesInto: asked => asked.folder,
  }),
  /** Draws the rows of a source's sounds together anew, after it was renamed or its rules changed. */
  redraw: kind<'redraw'>({
    title: asked => `Draw ${asked.folder || 'a source'} together anew`,
    run: async (asked, context) => (await import('../library/redraw')).redraw(asked, context),
    isTakenUpAgain: true,
  }),
  /** Looks for recordings that lie in the library twice, though not to the sample. */
  compare: kind<'compare'>({
    title: () => 'Find near-duplicates',
    run: async (_asked, context) => (await import('../library/compare')).compareSounds(context),
    isTakenUpAgain: true,
  }),
  /** Sets what a person says of many sounds. */
  mark: kind<'mark'>({
    title: ({ patch, said }) => `Set for ${counted(patch.ids.length, 'sound')}: ${said}`,
    run: async ({ patch, said }, context) => (await import('../library/markJob')).markJob(patch, said, context),
  }),
  /** Takes back what was set of many sounds, or does it again. */
  unmark: kind<'unmark'>({
    title: ({ redo }) => redo ? 'Do again' : 'Take back',
    run: async ({ redo }, context) => (await import('../library/markJob')).unmarkJob(redo, context),
  }),
  /** Copies the sounds of a tray into a folder. */
  copy: kind<'copy'>({
    title: asked => `Copy the tray into ${asked.folder}`,
    run: async (asked, context) => (await import('../library/copies')).copyTray(asked, context),
    writesInto: asked => asked.folder,
  }),
  unpack: kind<'unpack'>({
    title: ({ name }) => `Unpack ${name}`,
    run: async (asked, context) => (await import('../library/unpack')).unpackArchive(asked, context),
    isTakenUpAgain: true,
    needs: ({ archive }) => [archive],
    next: ({ sourceId, name }) => ({ kind: 'scan', sourceId, title: `Bring in ${name}` }),
  }),
  store: kind<'store'>({
    title: ({ name }) => `Store ${name}`,
    run: async (asked, context) => (await import('../vault/storeJob')).storeJob(asked, context),
  }),
  /** Checks presets that were found in the vault and that nobody has looked into. */
  check: kind<'check'>({
    title: ({ revisions }) => `Check ${counted(revisions.length, 'preset')} found in the vault`,
    run: async (asked, context) => (await import('../vault/checkJob')).checkPresets(asked, context),
    isTakenUpAgain: true,
  }),
  /** Renders a pattern on a kit into files. */
  bounce: kind<'bounce'>({
    title: ({ spec }) => `Bounce ${spec.pattern.name}`,
    run: async (asked, context) => (await import('../bounce/bounceJob')).bounceJob(asked, context),
    keepsThread: true,
    writesInto: asked => asked.folder,
  }),
  /** Measures a kit for a target, so that the page can plan. */
  measure: kind<'measure'>({
    title: ({ target }) => `Measure for ${target.name}`,
    run: async (asked, context) => (await import('../fit/fitJobs')).measureJob(asked, context),
    keepsThread: true,
  }),
  /** Fits kits to targets and writes them. */
  fit: kind<'fit'>({
    title: ({ spec: { targets } }) => `Write for ${targets.length === 1 ? targets[0]!.name : counted(targets.length, 'target')}`,
    run: async (asked, context) => (await import('../fit/fitJobs')).writeJob(asked, context),
    keepsThread: true,
    writesInto: asked => asked.folder,
  }),
  /** Renders a kit as it is, and as a target would have it. */
  hear: kind<'hear'>({
    title: ({ spec }) => `Hear what ${spec.target.name} makes of it`,
    run: async (asked, context) => (await import('../fit/fitJobs')).hearJob(asked, context),
    keepsThread: true,
  }),
  /** Brings a kit of another form into the vault. */
  foreign: kind<'foreign'>({
    title: ({ spec }) => `Read ${spec.preset ?? 'a kit'} into the vault`,
    run: async (asked, context) => (await import('../fit/fitJobs')).foreignJob(asked, context),
    needs: ({ spec }) => [spec.path],
  }),
  import: kind<'import'>({
    title: () => 'Import a kit package',
    run: async (asked, context) => (await import('../vault/importPackage')).importPackage(asked, context),
    needs: ({ archive }) => [archive],
  }),
} as const satisfies JobKinds

export type StudioJobKinds = typeof JOB_KINDS
