import type { JobKind } from '../../contract/jobs'

/** What a job was asked for, as it lies in the database; beside kind and title it is read by the schema of its kind. */
export interface StoredRequest {
  readonly kind: JobKind
  readonly title: string
  readonly [asked: string]: unknown
}
