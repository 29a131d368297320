import { eq } from 'drizzle-orm'
import { join, resolve } from 'node:path'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { freshFolder } from '../helpers/folder'
import { giveDatabase } from '../helpers/server'
import { openDatabase, schema, type Database, type OpenDatabase } from '../../server/db/open'
import { readConfig } from '../../server/base/config'
import { StudioEvents } from '../../server/base/events'
import type { StudioEvent } from '../../contract/events'
import { JobRunner } from '../../server/jobs/runner'
import { JOB_KINDS, type StudioJobKinds } from '../../server/studio/jobKinds'
import { JOB_REQUESTS } from '../../server/studio/jobRequests'

const data = freshFolder()
let database: OpenDatabase
let jobs: JobRunner<StudioJobKinds>
let isFull = false
const found: StudioEvent[] = []

beforeAll(async () => {
  giveDatabase(data)
  database = await openDatabase({ folder: join(data, 'db'), migrationsFolder: 'server/db/migrations', workerFile: resolve('dist/workers/pglite.worker.mjs') })
  const full = () => {
    throw Object.assign(new Error('could not extend file'), { code: '53100' })
  }
  const db = new Proxy<Database>(database.db, { get: (target, key) => isFull && key === 'update' ? full : Reflect.get(target, key) })
  const events = new StudioEvents()
  events.listen(event => found.push(event))
  jobs = new JobRunner(JOB_KINDS, JOB_REQUESTS, db, database.address, readConfig({ EMPORION_ROOT: '.', EMPORION_DATA: data }), events)
  await jobs.resume()
})

afterAll(async () => {
  await jobs.close()
  await database.close()
})

it('a job whose end can\'t be written down is told to have ended, does not stand in the way, and is written down later', async () => {
  const inDatabase = async (id: string) => (await database.db.select().from(schema.jobs).where(eq(schema.jobs.id, id)))[0]!.state
  // No source has this number, so that it fails at once.
  const scan = { kind: 'scan', sourceId: 999, title: 'Bring in nothing' } as const
  isFull = true
  const first = await jobs.add(scan)
  await expect.poll(() => found.some(event => event.type === 'job' && event.job.id === first.id && event.job.state === 'failed'), { timeout: 30_000 }).toBe(true)
  expect(await inDatabase(first.id)).toBe('running')
  expect((await jobs.list()).map(job => job.state)).toEqual(['failed'])
  expect(await jobs.get(first.id)).toMatchObject({ state: 'failed', error: expect.any(String) })
  const second = await jobs.add(scan)
  expect(second.id).not.toBe(first.id)
  isFull = false
  await expect.poll(async () => {
    await jobs.add(scan)
    return [await inDatabase(first.id), await inDatabase(second.id)]
  }, { timeout: 30_000 }).toEqual(['failed', 'failed'])
})
