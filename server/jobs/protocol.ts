import type { ErrorCode } from '../../core/errors'
import type { DatabaseAddress } from '../db/open'
import type { StudioConfig } from '../base/config'
import type { Changed } from './context'
import type { StoredRequest } from '../db/storedRequest'
import type { JobProgress } from '../../contract/jobs'

/** What a job's worker thread is started with. */
export interface JobWorkerData {
  readonly config: StudioConfig
  readonly address: DatabaseAddress
}

/** What a job's worker thread is sent: one job after the other, none before the last has ended. */
export type JobOrder =
  | { readonly type: 'run', readonly request: StoredRequest }
  | { readonly type: 'cancel' }
  /** No more jobs come. */
  | { readonly type: 'leave' }

/** What a job's worker thread says. */
export type JobMessage =
  | { readonly type: 'progress', readonly progress: JobProgress }
  | { readonly type: 'changed', readonly what: Changed }
  | { readonly type: 'done', readonly result: unknown }
  | { readonly type: 'failed', readonly message: string, readonly code: ErrorCode }
  | { readonly type: 'cancelled' }
