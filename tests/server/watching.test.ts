import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { JobView, ListedJob } from '../../contract/jobs'
import { freshFolder, waveOf } from '../helpers/folder'
import { startServer, type RunningServer } from '../helpers/server'

const QUIET_SECONDS = 60

describe('a watched source', () => {
  const samples = freshFolder()
  let server: RunningServer

  beforeAll(async () => {
    mkdirSync(join(samples, 'pier'))
    writeFileSync(join(samples, 'pier/first.wav'), waveOf(700))
    server = await startServer({ data: freshFolder(), roots: [samples] })
    await server.ended(await server.api<JobView>('/api/sources', { method: 'POST', body: { path: join(samples, 'pier') } }))
  })
  afterAll(() => server.stop())

  const scans = async () => (await server.api<ListedJob[]>('/api/jobs')).filter(job => job.title === 'Look at what changed in pier').reduce((sum, job) => sum + job.count, 0)
  const found = async () => (await server.api<{ total: number }>('/api/sounds')).total

  it('is scanned once after a burst of changes, and then not again', async () => {
    for (let i = 0; i < 5; i++) {
      writeFileSync(join(samples, `pier/burst ${i}.wav`), waveOf(710 + i))
      await new Promise(done => setTimeout(done, 300))
    }
    await expect.poll(found, { timeout: 60_000, interval: 300 }).toBe(6)
    await new Promise(done => setTimeout(done, QUIET_SECONDS * 1000))
    expect(await scans()).toBe(1)
  })
})
