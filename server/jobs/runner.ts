import { randomUUID } from 'node:crypto'
import { join } from 'node:path'
import { Worker } from 'node:worker_threads'
import { and, desc, eq, inArray, lt, sql } from 'drizzle-orm'
import { log } from '../base/log'
import { EmporionError, reasonOf } from '../../core/errors'
import { keepable, keepableAll } from '../../core/text'
import { schema, type Database, type DatabaseAddress } from '../db/open'
import type { StoredRequest } from '../db/storedRequest'
import type { StudioConfig } from '../base/config'
import type { StudioEvents } from '../base/events'
import type { JobMessage, JobOrder, JobWorkerData } from './protocol'
import { withoutEquals } from './list'
import type { JobKind, JobProgress, JobState, JobView, ListedJob } from '../../contract/jobs'
import { readRequest, type AddedJob, type AskedOf, type JobKinds, type RequestSchemas } from './kind'

const { jobs } = schema

const MOST_AT_ONCE = 2
const KEEP_FINISHED_DAYS = 30
/** A job that has not ended so long after it was cancelled is waiting for something that does not come: its thread is ended. */
const CANCEL_GRACE_MS = 1500
/** Jobs of which a list is made, and lines that it has at most. */
const LOOKED_THROUGH = 500
const LONGEST_LIST = 20

const UNKNOWN = 'This was asked for in a way that this version of Emporion does not know. Nothing was changed. Ask for it again.'

/** How long a thread is kept for the next job. */
const KEEP_THREAD_MS = 5 * 60_000

interface Running {
  readonly thread: Thread
  progress: JobProgress | null
  cancelled: boolean
}

/** A thread that does jobs, one after the other. */
interface Thread {
  readonly worker: Worker
  /** Who is told what it says of its job. */
  listen: (message: JobMessage) => void
  /** Who is told that it ended, and why. */
  ended: (reason: string) => void
}

type JobRow = typeof jobs.$inferSelect

/** What a list of jobs needs of each: a request may name half a million sounds. */
const viewed = {
  id: jobs.id, state: jobs.state, progress: jobs.progress, result: jobs.result, error: jobs.error,
  kind: sql<JobKind>`${jobs.request}->>'kind'`, title: sql<string>`${jobs.request}->>'title'`,
}
type ViewedRow = Pick<JobRow, 'id' | 'state' | 'progress' | 'result' | 'error'> & ({ readonly kind: JobKind, readonly title: string } | { readonly request: StoredRequest })

/**
 * Runs long work in worker threads, one job at a time in each. Jobs are rows in the database: after a crash, scans and
 * unpacking go on by themselves, since they repeat nothing that was done, and other jobs end as failed.
 */
export class JobRunner<Kinds extends JobKinds = JobKinds> {
  private readonly running = new Map<string, Running>()
  private starting: Promise<void> = Promise.resolve()
  private adding: Promise<unknown> = Promise.resolve()
  private kept: { readonly thread: Thread, readonly leaving: NodeJS.Timeout } | undefined
  /** Jobs that have ended, of which that could not be written down yet: the disk was full, or the database away. */
  private readonly unwritten = new Map<string, JobRow>()
  /** Whether jobs may wait that are not started yet. */
  private isAnyWaiting = true
  private closed = false

  constructor(
    private readonly kinds: Kinds,
    private readonly schemas: RequestSchemas,
    private readonly db: Database,
    private readonly address: DatabaseAddress,
    private readonly config: StudioConfig,
    private readonly events: StudioEvents,
  ) {}

  /** Takes up what an earlier process left. */
  async resume(): Promise<void> {
    const left = await this.db.select().from(jobs).where(eq(jobs.state, 'running'))
    for (const job of left) {
      const again = readRequest(this.schemas, job.request) !== undefined && this.kinds[job.request.kind].isTakenUpAgain
      await this.db.update(jobs).set(again
        ? { state: 'waiting' }
        : { state: 'failed', error: `Emporion was stopped during this: ${job.request.title}. Nothing half-written was kept. Do it again.`, finishedAt: new Date() },
      ).where(eq(jobs.id, job.id))
    }
    const before = new Date(Date.now() - KEEP_FINISHED_DAYS * 86_400_000)
    await this.db.delete(jobs).where(and(inArray(jobs.state, ['done', 'failed', 'cancelled']), lt(jobs.finishedAt, before)))
    this.startNext()
  }

  /** Adds a job to the queue, but for one that is the same as one that waits or runs: see `onceBy` of its kind. */
  async add<K extends JobKind>(request: AskedOf<Kinds, K>): Promise<JobView<K>> {
    return (await this.addOnce<K>(request)).job
  }

  /** Adds a job to the queue, and reports whether it is a new one or one that was open before. */
  addOnce<K extends JobKind>(request: AskedOf<Kinds, K>): Promise<AddedJob<K>> {
    const { title = this.kinds[request.kind].title(request) } = request
    // The kind of a job is that of its request.
    return this.addInTurn({ ...request, title }) as Promise<AddedJob<K>>
  }

  /** One after the other, so that two requests at once see each other. */
  private addInTurn(request: StoredRequest): Promise<AddedJob> {
    const added = this.adding.then(() => this.addNow(request))
    this.adding = added.catch(() => undefined)
    return added
  }

  private async addNow(request: StoredRequest): Promise<AddedJob> {
    await this.writeEnds()
    const { onceBy } = this.kinds[request.kind]
    const key = onceBy(request)
    if (key !== undefined) {
      const open = await this.db.select().from(jobs).where(and(inArray(jobs.state, ['waiting', 'running']), sql`${jobs.request}->>'kind' = ${request.kind}`))
      const same = open.find(job => !this.unwritten.has(job.id) && onceBy(job.request) === key)
      if (same) return { job: this.view(same), isNew: false }
    }
    const added = this.starting.then(() => this.insert(request))
    this.starting = added.then(() => undefined, () => undefined)
    const row = await added
    if (row.state === 'waiting') this.startNext()
    return { job: this.view(row), isNew: true }
  }

  /** Writes a job down, and starts it if there is room: none waits before it. */
  private async insert(request: StoredRequest): Promise<JobRow> {
    const isFree = !this.closed && !this.isAnyWaiting && this.running.size < MOST_AT_ONCE
    const [row] = await this.db.insert(jobs).values({ id: randomUUID(), request, state: isFree ? 'running' : 'waiting' }).returning()
    if (isFree) this.start(row!)
    else {
      this.isAnyWaiting = true
      this.events.send({ type: 'job', job: this.view(row!) })
    }
    return row!
  }

  /** Jobs that wait or run, and the last ones that ended; of those that ended alike the last, with their count. */
  async list(): Promise<ListedJob[]> {
    const rows = await this.db.select(viewed).from(jobs).orderBy(desc(jobs.createdAt)).limit(LOOKED_THROUGH)
    return withoutEquals(rows.map(row => this.view(this.unwritten.get(row.id) ?? row))).slice(0, LONGEST_LIST)
  }

  async get(id: string): Promise<JobView> {
    const [row] = await this.db.select(viewed).from(jobs).where(eq(jobs.id, id))
    if (!row) throw new EmporionError('not-found', 'This job is not known.')
    return this.view(this.unwritten.get(id) ?? row)
  }

  /** Cancels a job. What it had finished is kept; a job that has ended is left as it is. */
  async cancel(id: string): Promise<void> {
    const running = this.running.get(id)
    if (running) {
      running.cancelled = true
      order(running.thread, { type: 'cancel' })
      setTimeout(() => this.giveUp(id, running), CANCEL_GRACE_MS).unref()
      return
    }
    const [row] = await this.db.update(jobs).set({ state: 'cancelled', finishedAt: new Date() })
      .where(and(eq(jobs.id, id), eq(jobs.state, 'waiting'))).returning()
    if (row) this.events.send({ type: 'job', job: this.view(row) })
  }

  /** Ends the thread of a job that was cancelled and goes on all the same. What it has half-written goes at the next start. */
  private giveUp(id: string, running: Running): void {
    if (this.running.get(id) !== running) return
    const { ended } = running.thread
    this.giveBack(running.thread, false)
    // The job is over now, even where the thread hangs in a call of the system that can't be broken off.
    ended('Cancelled.')
    void running.thread.worker.terminate()
  }

  /** Ends all threads at once; their jobs are taken up at the next start. */
  async close(): Promise<void> {
    this.closed = true
    await this.starting
    clearTimeout(this.kept?.leaving)
    const threads = [...[...this.running.values()].map(({ thread }) => thread), ...this.kept ? [this.kept.thread] : []]
    await Promise.all(threads.map(({ worker }) => worker.terminate()))
  }

  private startNext(): void {
    this.starting = this.starting.then(async () => {
      while (!this.closed && this.running.size < MOST_AT_ONCE) {
        const [row] = await this.db.select().from(jobs).where(eq(jobs.state, 'waiting')).orderBy(jobs.createdAt).limit(1)
        this.isAnyWaiting = row !== undefined
        if (!row) return
        const request = readRequest(this.schemas, row.request)
        await this.db.update(jobs).set(request ? { state: 'running' } : { state: 'failed', error: UNKNOWN, finishedAt: new Date() }).where(eq(jobs.id, row.id))
        if (request) this.start({ ...row, request, state: 'running' })
      }
    }).catch((thrown: unknown) => log.error({ err: thrown }, 'A job could not be started'))
  }

  private start(row: JobRow): void {
    const thread = this.takeThread()
    const running: Running = { thread, progress: null, cancelled: false }
    this.running.set(row.id, running)
    this.events.send({ type: 'job', job: this.view(row) })
    thread.ended = reason => void this.finish(row, running.cancelled ? { state: 'cancelled' } : { state: 'failed', error: reason })
    thread.listen = (message) => {
      if (this.closed) return
      if (message.type === 'progress') {
        running.progress = message.progress
        this.events.send({ type: 'job', job: this.view(row) })
        return
      }
      if (message.type === 'changed') return this.events.send(message.what === 'arrivals' ? { type: 'library', isArriving: true } : { type: message.what })
      this.giveBack(thread, message.type === 'done' && this.kinds[row.request.kind].keepsThread)
      void this.finish(row, message.type === 'done' ? { state: 'done', result: keepableAll(message.result) } : message.type === 'cancelled' ? { state: 'cancelled' } : { state: 'failed', error: keepable(message.message) })
    }
    order(thread, { type: 'run', request: row.request })
  }

  /** The thread that was kept, or a new one. */
  private takeThread(): Thread {
    const { kept } = this
    if (kept) {
      clearTimeout(kept.leaving)
      this.kept = undefined
      return kept.thread
    }
    const workerData: JobWorkerData = { config: this.config, address: this.address }
    const thread: Thread = { worker: new Worker(join(this.config.workersDir, 'job.worker.mjs'), { workerData }), listen: () => undefined, ended: () => undefined }
    let reason = 'The thread that did this ended without a word. What was finished is kept. Retry.'
    thread.worker.on('message', (message: JobMessage) => thread.listen(message))
    thread.worker.on('error', (thrown) => {
      reason = `The thread that did this ended with an error: ${reasonOf(thrown)}. What was finished is kept. Retry.`
    })
    thread.worker.on('exit', () => {
      if (this.kept?.thread === thread) this.kept = undefined
      if (!this.closed) thread.ended(reason)
    })
    return thread
  }

  /** Keeps a thread whose job has ended for the next, or lets it go. */
  private giveBack(thread: Thread, keep: boolean): void {
    thread.listen = () => undefined
    thread.ended = () => undefined
    const leave = () => {
      if (this.kept?.thread === thread) this.kept = undefined
      order(thread, { type: 'leave' })
    }
    if (keep && !this.kept) this.kept = { thread, leaving: setTimeout(leave, KEEP_THREAD_MS).unref() }
    else leave()
  }

  private async finish(row: JobRow, end: Partial<JobRow>): Promise<void> {
    const progress = this.running.get(row.id)?.progress ?? null
    this.running.delete(row.id)
    const ended: JobRow = { ...row, ...end, progress, finishedAt: new Date() }
    const { id, state, request: { kind }, error } = ended
    if (state === 'failed') log.warn({ job: id, kind, err: error }, 'A job failed')
    else log.info({ job: id, kind, state }, 'A job ended')
    // Before anyone is told that it has ended: whoever then looks what is still to come finds the scan.
    if (ended.state === 'done') await this.addNext(ended).catch((thrown: unknown) => log.error({ err: thrown, job: ended.id, kind: ended.request.kind }, 'What follows a job could not be asked for'))
    this.unwritten.set(row.id, ended)
    await this.writeEnds()
    this.events.send({ type: 'job', job: this.view(ended) })
    this.startNext()
  }

  /** Writes down how jobs have ended. What can't be written now is, when the next is added or ends. */
  private async writeEnds(): Promise<void> {
    for (const [id, { state, result, error, progress, finishedAt }] of [...this.unwritten]) {
      try {
        await this.db.update(jobs).set({ state, result, error, progress, finishedAt }).where(eq(jobs.id, id))
        this.unwritten.delete(id)
      }
      catch (thrown) {
        log.error({ err: thrown instanceof Error ? thrown.cause ?? thrown : thrown, job: id }, 'That a job ended could not be written down')
        return
      }
    }
  }

  private async addNext({ request, result }: JobRow): Promise<void> {
    const next = this.kinds[request.kind].next(result)
    if (next) await this.addInTurn(next)
  }

  private view(row: ViewedRow): JobView {
    const state: JobState = row.state
    const { kind, title } = 'request' in row ? row.request : row
    const view: Omit<JobView, 'kind' | 'result'> & { readonly kind: JobKind, readonly result: unknown } = {
      id: row.id,
      kind,
      title,
      state,
      progress: this.running.get(row.id)?.progress ?? row.progress ?? null,
      result: row.result ?? null,
      error: row.error,
    }
    // What a job of this kind gave back when it ended.
    return view as JobView
  }
}

function order(thread: Thread, given: JobOrder): void {
  thread.worker.postMessage(given)
}
