import type { z } from 'zod'
import type { JobKind, JobResults, JobView } from '../../contract/jobs'
import type { StoredRequest } from '../db/storedRequest'
import type { JobContext } from './context'

/** One kind of long work: all that is to be known of it. */
export interface JobDeclaration<Kind extends JobKind, Asked> {
  /** What it is called in lists, where whoever asks for it says nothing better. */
  readonly title: (asked: Asked) => string
  /** Does it, in a thread: loads what it needs and no more, since decoders and archives take as long to load as a short scan takes. */
  readonly run: (asked: Asked, context: JobContext) => Promise<JobResults[Kind]>
  /** True where it is taken up again after a crash: it repeats nothing that was done, or harms nothing when it is done twice. */
  readonly isTakenUpAgain?: boolean
  /** True where it is asked for again soon: its thread is kept for the next job, with all that it has loaded. */
  readonly keepsThread?: boolean
  /** Jobs of this kind with the same answer are one as long as the first waits or runs. */
  readonly onceBy?: (asked: Asked) => string
  /** Files of the data folder that it needs until it has ended. */
  readonly needs?: (asked: Asked) => readonly string[]
  /** The folder of the user that it writes into, where it does. */
  readonly writesInto?: (asked: Asked) => string | null
  /** What is asked for when it is done. */
  readonly next?: (result: JobResults[Kind]) => StoredRequest
}

/** A kind as the runner uses it. */
export interface KnownKind {
  readonly title: (asked: unknown) => string
  readonly run: (asked: unknown, context: JobContext) => Promise<unknown>
  readonly isTakenUpAgain: boolean
  readonly keepsThread: boolean
  readonly onceBy: (asked: unknown) => string | undefined
  readonly needs: (asked: unknown) => readonly string[]
  readonly writesInto: (asked: unknown) => string | null
  readonly next: (result: unknown) => StoredRequest | undefined
}

/** A kind that knows what is asked with it. */
export interface TypedKind<Asked> extends KnownKind {
  /** Never there: carries the type. */
  readonly asked?: Asked
}

/** Declares a kind of job. What it is given was read by the schema of its kind, or is held to its type by whoever asks. */
export function jobKind<Kind extends JobKind, Asked>({ title, run, isTakenUpAgain = false, keepsThread = false, onceBy, needs, writesInto, next }: JobDeclaration<Kind, Asked>): TypedKind<Asked> {
  return {
    title: asked => title(asked as Asked),
    run: (asked, context) => run(asked as Asked, context),
    isTakenUpAgain,
    keepsThread,
    onceBy: asked => onceBy?.(asked as Asked),
    needs: asked => needs?.(asked as Asked) ?? [],
    writesInto: asked => writesInto?.(asked as Asked) ?? null,
    // What a job of this kind gave back.
    next: result => next?.(result as JobResults[Kind]),
  }
}

/** The schemas of what is asked with each kind. */
export type RequestSchemas = Readonly<Record<JobKind, z.ZodType>>

/** What was asked for, read by the schema of its kind; undefined where another version wrote it in a way that is not known. */
export function readRequest(schemas: RequestSchemas, stored: StoredRequest): StoredRequest | undefined {
  const { kind, title } = stored
  const asked = Object.hasOwn(schemas, kind) ? schemas[kind].safeParse(stored).data : undefined
  return asked === undefined ? undefined : { ...asked as object, kind, title }
}

/** Every kind of job by its name. */
export type JobKinds = Readonly<Record<JobKind, KnownKind>>

/** What can be asked for with some kinds. */
export type AskedOf<Kinds extends JobKinds, K extends JobKind> = Kinds[K] extends TypedKind<infer Asked> ? Asked & { readonly kind: K, readonly title?: string } : never

/** A job that was asked for: a new one, or the same that was waiting or running already. */
export interface AddedJob<K extends JobKind = JobKind> {
  readonly job: JobView<K>
  readonly isNew: boolean
}

/** Whoever takes scans of sources. */
export interface ScanQueue {
  addOnce(request: { readonly kind: 'scan', readonly sourceId: number, readonly title?: string }): Promise<AddedJob<'scan'>>
}
