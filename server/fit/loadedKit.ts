import type { Kit } from '../../core/kit/document'

/** A kit to be fitted, with where the audio of its sounds lies. */
export interface LoadedKit {
  readonly kit: Kit
  /** The file that holds a sound; undefined where there is none. */
  readonly locate: (soundId: string) => Promise<string | undefined>
  /** What was lost when it was read, in whole sentences. */
  readonly remarks: readonly string[]
  /** How many of the remarks are about sounds that were left out. */
  readonly lost: number
  /** Samples that are named but not there. */
  readonly missing: readonly string[]
  /** Takes away what was unpacked for it. */
  readonly close: () => Promise<void>
}

/** What long work is steered by. */
export interface Steering {
  readonly signal: AbortSignal
  readonly onStep: (done: number, total: number, at: string, bytes: number) => void
}
