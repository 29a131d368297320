import { join } from 'node:path'
import { eq } from 'drizzle-orm'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { z } from 'zod'
import type { StudioEvent } from '../../contract/events'
import type { JobState } from '../../contract/jobs'
import { freshFolder, put } from '../../tests/helpers/folder'
import { memoryDatabase } from '../../tests/helpers/memoryDatabase'
import { readConfig } from '../base/config'
import { StudioEvents } from '../base/events'
import { schema, type Database } from '../db/open'
import { jobKind, readRequest, type JobDeclaration, type JobKinds, type RequestSchemas } from './kind'
import { JobRunner } from './runner'

/** A worker that does as it is asked: ends, fails, goes on until it is cancelled, or ends its thread. */
const WORKER = `
import { parentPort } from 'node:worker_threads'
parentPort.on('message', (order) => {
  if (order.type === 'leave') process.exit()
  else if (order.type === 'cancel') parentPort.postMessage({ type: 'cancelled' })
  else if (order.request.folder === 'fail') parentPort.postMessage({ type: 'failed', message: 'It broke.', code: 'broken' })
  else if (order.request.folder === 'die') process.exit(3)
  else if (order.request.folder !== 'wait') parentPort.postMessage({ type: 'done', result: { sourceId: 7, name: 'Deck', sources: 1, presets: 0 } })
})`

interface Asked {
  readonly folder: string
}

const inThread = () => Promise.reject(new Error('runs in the thread'))
const kind = (more: Partial<JobDeclaration<'demo', Asked>> = {}) => jobKind<'demo', Asked>({ title: ({ folder }) => `Do ${folder}`, run: inThread, ...more })
const KINDS = {
  scan: jobKind<'scan', { readonly sourceId: number }>({ title: () => 'Scan', run: inThread }),
  demo: kind({ isTakenUpAgain: true, onceBy: ({ folder }) => folder }),
  unpack: jobKind<'unpack', Asked>({ title: () => 'Unpack', run: inThread, next: ({ sourceId, name }) => ({ kind: 'scan', sourceId, title: `Bring in ${name}` }) }),
  redraw: kind(), compare: kind(), mark: kind(), unmark: kind(), copy: kind(), store: kind(), check: kind(), bounce: kind(), measure: kind(), fit: kind(), hear: kind(), foreign: kind(), import: kind(),
} as const satisfies JobKinds
const asked = z.object({ folder: z.string() })
const SCHEMAS: RequestSchemas = { ...Object.fromEntries(Object.keys(KINDS).map(name => [name, asked])) as unknown as RequestSchemas, scan: z.object({ sourceId: z.int() }), store: asked.extend({ type: z.string().default('kit') }) }

let db: Database
let runner: JobRunner<typeof KINDS>
let found: StudioEvent[]

beforeEach(async () => {
  db = await memoryDatabase()
  const folder = freshFolder()
  put(folder, 'dist/workers/job.worker.mjs', WORKER)
  const events = new StudioEvents()
  found = []
  events.listen(event => found.push(event))
  runner = new JobRunner(KINDS, SCHEMAS, db, { url: '' }, readConfig({ EMPORION_ROOT: folder, EMPORION_DATA: join(folder, 'data') }), events)
})

afterEach(() => runner.close())

const stateOf = async (id: string) => (await db.select({ state: schema.jobs.state }).from(schema.jobs).where(eq(schema.jobs.id, id)))[0]!.state
const ends = (id: string, state: JobState) => vi.waitFor(async () => expect(await stateOf(id)).toBe(state), { timeout: 60_000 })
const left = (state: JobState, kind: 'demo' | 'copy' | 'scan', created = new Date()) => db.insert(schema.jobs).values({ id: crypto.randomUUID(), request: { kind, folder: 'x', sourceId: 1, title: 'Left' }, state, createdAt: created, finishedAt: state === 'done' ? created : null }).returning().then(([row]) => row!.id)

describe('long work', () => {
  it('is named by its kind where nobody says better, done, and reported to whoever listens', async () => {
    const job = await runner.add<'copy'>({ kind: 'copy', folder: 'quick' })
    expect(job.title).toBe('Do quick')
    await ends(job.id, 'done')
    expect((await runner.add<'copy'>({ kind: 'copy', folder: 'wait', title: 'Own title' })).title).toBe('Own title')
    expect(found.flatMap(event => event.type === 'job' && event.job.id === job.id ? [event.job.state] : [])).toContain('done')
    expect(await runner.get(job.id)).toMatchObject({ kind: 'copy', state: 'done', result: { sources: 1 } })
  })

  it('that failed says why; a thread that ends without a word fails its job alone', async () => {
    const failed = await runner.add<'copy'>({ kind: 'copy', folder: 'fail' })
    const died = await runner.add<'copy'>({ kind: 'copy', folder: 'die' })
    await ends(failed.id, 'failed')
    await ends(died.id, 'failed')
    expect((await runner.get(failed.id)).error).toBe('It broke.')
    expect((await runner.get(died.id)).error).toContain('ended without a word')
    await ends((await runner.add<'copy'>({ kind: 'copy', folder: 'quick' })).id, 'done')
  })

  it('runs two at a time; what waits or runs is cancelled', async () => {
    const jobs = await Promise.all(['a', 'b', 'c'].map(() => runner.add<'copy'>({ kind: 'copy', folder: 'wait' })))
    await vi.waitFor(async () => expect((await Promise.all(jobs.map(job => stateOf(job.id)))).sort()).toEqual(['running', 'running', 'waiting']), { timeout: 60_000 })
    const waiting = (await Promise.all(jobs.map(async job => [job.id, await stateOf(job.id)] as const))).find(([, state]) => state === 'waiting')![0]
    await runner.cancel(waiting)
    expect(await stateOf(waiting)).toBe('cancelled')
    for (const job of jobs) await runner.cancel(job.id)
    for (const job of jobs) await ends(job.id, 'cancelled')
  })

  it('that may be asked for once is one as long as it is open', async () => {
    const first = await runner.addOnce<'demo'>({ kind: 'demo', folder: 'wait' })
    const second = await runner.addOnce<'demo'>({ kind: 'demo', folder: 'wait' })
    expect([first.isNew, second.isNew, second.job.id === first.job.id]).toEqual([true, false, true])
    expect((await runner.addOnce<'demo'>({ kind: 'demo', folder: 'quick' })).isNew).toBe(true)
    await runner.cancel(first.job.id)
    await ends(first.job.id, 'cancelled')
    expect((await runner.addOnce<'demo'>({ kind: 'demo', folder: 'wait' })).isNew).toBe(true)
  })

  it('asks for what follows it', async () => {
    const job = await runner.add<'unpack'>({ kind: 'unpack', folder: 'quick' })
    await ends(job.id, 'done')
    await vi.waitFor(async () => expect((await runner.list()).map(({ title }) => title)).toContain('Bring in Deck'), { timeout: 60_000 })
  })

  it('that a crash broke off is taken up again where that harms nothing, and else failed; what ended long ago is forgotten', async () => {
    const [again, lost] = [await left('running', 'demo'), await left('running', 'copy')]
    const [old, recent] = [await left('done', 'scan', new Date(Date.now() - 31 * 86_400_000)), await left('done', 'scan')]
    await runner.resume()
    await ends(again, 'done')
    expect((await runner.get(lost)).error).toBe('Emporion was stopped during this: Left. Nothing half-written was kept. Do it again.')
    await expect(runner.get(old)).rejects.toThrow('This job is not known.')
    expect((await runner.get(recent)).state).toBe('done')
  })

  it('of a kind that this version does not have fails at the start, and the rest goes on', async () => {
    const [strange] = await db.insert(schema.jobs).values({ id: crypto.randomUUID(), request: { kind: 'knit' as 'copy', title: 'Knit' }, state: 'running' }).returning()
    await runner.resume()
    expect(await stateOf(strange!.id)).toBe('failed')
    await ends((await runner.add<'copy'>({ kind: 'copy', folder: 'quick' })).id, 'done')
  })
})

describe('what was asked for', () => {
  it('is read by the schema of its kind: what an older version left out is filled in, what it wrote otherwise is not known', () => {
    expect(readRequest(SCHEMAS, { kind: 'store', title: 'Store', folder: 'x', more: 1 })).toEqual({ kind: 'store', title: 'Store', folder: 'x', type: 'kit' })
    expect(readRequest(SCHEMAS, { kind: 'store', title: 'Store', archive: 'x' })).toBeUndefined()
    expect(readRequest(SCHEMAS, { kind: 'knit' as 'copy', title: 'Knit', folder: 'x' })).toBeUndefined()
  })

  it('fails with a sentence where it waited and is not known any more', async () => {
    const [waiting] = await db.insert(schema.jobs).values({ id: crypto.randomUUID(), request: { kind: 'copy', title: 'Copy', archive: 'x' }, state: 'waiting' }).returning()
    await runner.resume()
    await ends(waiting!.id, 'failed')
    expect((await runner.get(waiting!.id)).error).toContain('in a way that this version of Emporion does not know')
  })
})
