import { z } from 'zod'

export type JobKind = 'scan' | 'demo' | 'redraw' | 'compare' | 'mark' | 'unmark' | 'copy' | 'unpack' | 'store' | 'check' | 'bounce' | 'measure' | 'fit' | 'hear' | 'foreign' | 'import'

export type JobState = 'waiting' | 'running' | 'done' | 'failed' | 'cancelled'

export interface JobProgress {
  /** Things done so far, and how many there are where that is known. */
  readonly done: number
  readonly total: number | null
  /** What is counted: "files", "samples". */
  readonly unit: string
  readonly bytes: number
  /** Things a second over the last seconds. */
  readonly rate: number
  readonly secondsLeft: number | null
  /** What is being worked on now. */
  readonly at: string
  readonly problems: number
}

/** A job as the page sees it. */
export interface JobView {
  readonly id: string
  readonly kind: JobKind
  readonly title: string
  readonly state: JobState
  readonly progress: JobProgress | null
  readonly result: unknown
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
