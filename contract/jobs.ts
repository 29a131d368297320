import { z } from 'zod'
import type { Bounced } from './bounce'
import { get, post } from './endpoint'
import type { HeardFit, ReadForeign, WrittenFits } from './fit'
import type { MarkEdit } from './marks'
import type { Copied } from './tray'
import type { Imported } from './vault'


export const JOB_STATES = ['waiting', 'running', 'done', 'failed', 'cancelled'] as const
export type JobState = typeof JOB_STATES[number]

const progressSchema = z.object({
  /** Things done so far, and how many there are where that is known. */
  done: z.number(),
  total: z.number().nullable(),
  /** What is counted: "files", "samples". */
  unit: z.string(),
  bytes: z.number(),
  /** Things a second over the last seconds. */
  rate: z.number(),
  secondsLeft: z.number().nullable(),
  /** What is being worked on now. */
  at: z.string(),
  problems: z.number(),
}).readonly()
export type JobProgress = z.infer<typeof progressSchema>

/** A job as the page sees it. */
export interface JobView<K extends JobKind = JobKind> {
  readonly id: string
  readonly kind: K
  readonly title: string
  readonly state: JobState
  readonly progress: JobProgress | null
  /** Null until it is done. */
  readonly result: JobResults[K] | null
  readonly error: string | null
}

/** What a comparison gives back. */
export interface CompareResult {
  readonly sounds: number
  /** Pairs whose waveforms were laid over each other, and those that are one recording. */
  readonly compared: number
  readonly found: number
}

/** What storing a preset gives back. */
export const storedSchema = z.object({
  presetId: z.string(),
  name: z.string(),
  revision: z.int(),
  pads: z.int(),
  samples: z.int(),
  bytes: z.int(),
  /** So much lower is the preview than the kit, that it does not clip; 0 or less. */
  previewLoweredDb: z.number(),
  previewSilent: z.boolean(),
  path: z.string(),
})

export type Stored = z.infer<typeof storedSchema>

/** A line of a list of jobs: the last of those that ended alike, and how many there were. */
export interface ListedJob extends JobView {
  readonly count: number
}

/** What a scan gives back. */
export interface ScanResult {
  readonly files: number
  readonly read: number
  readonly unchanged: number
  readonly unreadable: number
  readonly missing: number
  /** Files that were missing and are there again. */
  readonly back: number
  readonly otherFiles: number
}

/** What making the demo gives back: its sources, and the presets that were stored. */
export interface DemoResult {
  readonly sources: number
  readonly presets: number
}

/** What looking through presets of the vault gives back: those whose samples were compared, and those that are damaged. */
export interface CheckedPresets {
  readonly checked: number
  readonly damaged: number
}

/** What each kind of job gives back. */
export interface JobResults {
  readonly scan: ScanResult
  readonly demo: DemoResult
  readonly redraw: { readonly sounds: number }
  readonly compare: CompareResult
  readonly mark: MarkEdit
  readonly unmark: MarkEdit
  readonly copy: Copied
  readonly unpack: { readonly sourceId: number, readonly name: string }
  readonly store: Stored
  readonly check: CheckedPresets
  readonly bounce: Bounced
  readonly measure: { readonly id: string }
  readonly fit: WrittenFits
  readonly hear: HeardFit
  readonly foreign: ReadForeign
  readonly import: Imported
}

export type JobKind = keyof JobResults

/** A job as it comes in; what it gave back is what its kind gives back. */
export const jobViewSchema = z.object({
  id: z.string(),
  kind: z.custom<JobKind>(kind => typeof kind === 'string'),
  title: z.string(),
  state: z.enum(JOB_STATES),
  progress: progressSchema.nullable(),
  result: z.custom<JobResults[JobKind] | null>(),
  error: z.string().nullable(),
}).readonly()

const params = { id: z.uuid() }

export const jobRoutes = {
  list: get('/api/jobs', 'Jobs that wait or run, and the last that ended.').answers<readonly ListedJob[]>(),
  read: get('/api/jobs/[id]', 'A job as it stands.', { params }).answers<JobView>(),
  cancel: post('/api/jobs/[id]/cancel', 'Cancels a job; what it has finished is kept.', { params }).answers<{ readonly asked: boolean }>(),
}
