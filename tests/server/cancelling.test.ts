import { writeFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { JobRunner } from '../../server/jobs/runner'
import { JOB_KINDS, type StudioJobKinds } from '../../server/studio/jobKinds'
import { JOB_REQUESTS } from '../../server/studio/jobRequests'
import { openDatabase, type OpenDatabase } from '../../server/db/open'
import { readConfig } from '../../server/base/config'
import { StudioEvents } from '../../server/base/events'
import { freshFolder } from '../helpers/folder'
import { giveDatabase } from '../helpers/server'

describe('long work', () => {
  const data = freshFolder()
  const workers = freshFolder()
  let database: OpenDatabase
  let jobs: JobRunner<StudioJobKinds>

  beforeAll(async () => {
    giveDatabase(data)
    database = await openDatabase({ folder: join(data, 'db'), migrationsFolder: 'server/db/migrations', workerFile: resolve('dist/workers/pglite.worker.mjs') })
    // A thread that never looks at what it is sent.
    writeFileSync(join(workers, 'job.worker.mjs'), 'import { parentPort } from \'node:worker_threads\'\nparentPort.on(\'message\', () => { for (;;); })\n')
    jobs = new JobRunner(JOB_KINDS, JOB_REQUESTS, database.db, database.address, { ...readConfig({ EMPORION_ROOT: '.', EMPORION_DATA: data }), workersDir: workers }, new StudioEvents())
    await jobs.resume()
  })
  afterAll(async () => {
    await jobs.close()
    await database.close()
  })

  it('is over soon after it was cancelled, whatever it waits for, and its place is free for the next', async () => {
    const stuck = await Promise.all([1, 2].map(sourceId => jobs.add({ kind: 'scan', sourceId, title: `Scan ${sourceId}` })))
    const next = await jobs.add({ kind: 'scan', sourceId: 3, title: 'Scan 3' })
    await expect.poll(async () => (await jobs.get(stuck[1]!.id)).state).toBe('running')
    expect((await jobs.get(next.id)).state).toBe('waiting')
    await jobs.cancel(stuck[0]!.id)
    await expect.poll(async () => (await jobs.get(stuck[0]!.id)).state, { timeout: 2000 }).toBe('cancelled')
    await expect.poll(async () => (await jobs.get(next.id)).state, { timeout: 2000 }).toBe('running')
    expect((await jobs.get(stuck[1]!.id)).state).toBe('running')
  })

  it('is not begun a second time for one source, and whoever asks for it learns that', async () => {
    const scan = { kind: 'scan', sourceId: 9, title: 'Scan 9' } as const
    expect((await jobs.addOnce(scan)).isNew).toBe(true)
    expect((await jobs.addOnce(scan)).isNew).toBe(false)
  })
})
