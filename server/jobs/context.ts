import type { Database } from '../db/open'
import type { StudioConfig } from '../base/config'
import type { JobProgress } from '../../contract/jobs'

/** What pages show and long work changes; `arrivals` are what a scan that goes on has brought to the library so far. */
export type Changed = 'library' | 'arrivals' | 'vault' | 'trays'

/** What long work is given to do its work with. */
export interface JobContext {
  readonly db: Database
  readonly config: StudioConfig
  /** Aborted when the job is cancelled. */
  readonly signal: AbortSignal
  readonly report: (progress: JobProgress) => void
  /** Tells the pages that something they show has changed. */
  readonly changed: (what: Changed) => void
}
