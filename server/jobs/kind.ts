import type { z } from 'zod'
import { EmporionError } from '../../core/errors'
import type { JobKind, JobResults, JobView } from '../../contract/jobs'
import type { StoredRequest } from '../db/storedRequest'
import type { JobContext } from './context'

/** One kind of long work: all that is to be known of it. */
export interface JobDeclaration<Kind extends JobKind, Schema extends z.ZodType> {
  /** What is asked for, beside kind and title. */
  readonly schema: Schema
  /** What it is called in lists, where whoever asks for it says nothing better. */
  readonly title: (asked: z.input<Schema>) => string
  /** Does it, in a thread: loads what it needs and no more, since decoders and archives take as long to load as a short scan takes. */
  readonly run: (asked: z.output<Schema>, context: JobContext) => Promise<JobResults[Kind]>
  /** True where it is taken up again after a crash: it repeats nothing that was done, or harms nothing when it is done twice. */
  readonly isTakenUpAgain?: boolean
  /** True where it is asked for again soon: its thread is kept for the next job, with all that it has loaded. */
  readonly keepsThread?: boolean
  /** Jobs of this kind with the same answer are one as long as the first waits or runs. */
  readonly onceBy?: (asked: z.output<Schema>) => string
  /** Files of the data folder that it needs until it has ended. */
  readonly needs?: (asked: z.output<Schema>) => readonly string[]
  /** The folder of the user that it writes into, where it does. */
  readonly writesInto?: (asked: z.output<Schema>) => string | null
  /** What is asked for when it is done. */
  readonly next?: (result: JobResults[Kind]) => StoredRequest
}

/** A kind as the runner uses it: requests are read by its schema first. */
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

/** Declares a kind of job. */
export function jobKind<Kind extends JobKind, Schema extends z.ZodType>(_kind: Kind, declared: JobDeclaration<Kind, Schema>): TypedKind<z.input<Schema>> {
  const { schema, title, run, isTakenUpAgain = false, keepsThread = false, onceBy, needs, writesInto, next } = declared
  // What an older version wrote down may be another.
  const read = (asked: unknown) => schema.safeParse(asked).data
  const answerOf = <T>(answer: ((asked: z.output<Schema>) => T) | undefined, asked: unknown) => {
    const known = answer && read(asked)
    return known === undefined ? undefined : answer?.(known)
  }
  return {
    // Not read first, as half a million ids would take long: whoever asks is held to the type of `asked`.
    title: asked => title(asked as z.input<Schema>),
    run: async (asked, context) => {
      const known = read(asked)
      if (known === undefined) throw new EmporionError('unsupported', UNKNOWN_WAY)
      return run(known, context)
    },
    isTakenUpAgain,
    keepsThread,
    onceBy: asked => answerOf(onceBy, asked),
    needs: asked => answerOf(needs, asked) ?? [],
    writesInto: asked => answerOf(writesInto, asked) ?? null,
    // What a job of this kind gave back.
    next: result => next?.(result as JobResults[Kind]),
  }
}

/** Every kind of job by its name. */
export type JobKinds = Readonly<Record<JobKind, KnownKind>>

const UNKNOWN_WAY = { what: 'This was asked for in a way that this version of Emporion does not know.', kept: 'Nothing was changed.', next: 'Ask for it again.' }

/** What is done with a kind that a newer Emporion wrote down: nothing, and that is reported. */
const UNKNOWN_KIND: KnownKind = {
  title: () => 'Unknown work',
  run: () => Promise.reject(new EmporionError('unsupported', UNKNOWN_WAY)),
  isTakenUpAgain: false,
  keepsThread: false,
  onceBy: () => undefined,
  needs: () => [],
  writesInto: () => null,
  next: () => undefined,
}

/** The kind of what was asked for, which comes out of the database and may be one that this version does not have. */
export function kindOf(kinds: JobKinds, { kind }: Pick<StoredRequest, 'kind'>): KnownKind {
  return Object.hasOwn(kinds, kind) ? kinds[kind] : UNKNOWN_KIND
}

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
