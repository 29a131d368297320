import { existsSync, mkdirSync, readdirSync, renameSync } from 'node:fs'
import { join } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { emptyKit } from '../../core/kit/document'
import { placeSounds } from '../../core/kit/edits'
import type { JobView, Stored } from '../../contract/jobs'
import type { KitView } from '../../contract/kits'
import type { SoundRow } from '../../contract/library'
import type { VaultView } from '../../contract/vault'
import { checkBag } from '../conformance/bagit'
import { freshFolder, put, waveOf } from '../helpers/folder'
import { startServer, type RunningServer } from '../helpers/server'

const FILES = 1500
let samples: string
let data: string
let server: RunningServer

beforeEach(async () => {
  samples = freshFolder()
  data = freshFolder()
  for (let i = 0; i < FILES; i++) put(samples, `Pack/${i % 20}/Kick ${i}.wav`, waveOf(40 + i / 10, 2000))
  server = await startServer({ data, roots: [samples] })
})
afterEach(() => server.stop())

const bringIn = (folder = 'Pack') => server.api<JobView>('/api/sources', { method: 'POST', body: { path: join(samples, folder) } })
const total = async () => (await server.api<{ total: number }>('/api/sounds?limit=0')).total

/** Waits until the condition holds. */
async function until(holds: () => Promise<boolean> | boolean): Promise<void> {
  while (!await holds()) await new Promise(done => setTimeout(done, 5))
}

async function restart(): Promise<void> {
  server = await startServer({ data, roots: [samples], port: server.port })
}

describe('kill -9', () => {
  it('in the middle of a scan: it goes on by itself and reads nothing twice', async () => {
    const job = await bringIn()
    await until(async () => await total() > 100)
    await server.stop('SIGKILL')
    await restart()
    const ended = await server.ended(job)
    expect(ended.state).toBe('done')
    const result = ended.result as { read: number, unchanged: number }
    expect(result.unchanged).toBeGreaterThanOrEqual(100)
    expect(result.read + result.unchanged).toBe(FILES)
    expect(await total()).toBe(FILES)
  })

  it('in the middle of a store: the old revision is whole, nothing half-written is left, the kit is there', async () => {
    await server.ended(await bringIn())
    const { rows } = await server.api<{ rows: SoundRow[] }>('/api/sounds?limit=120')
    const toPlace = rows.map(row => ({ sound: { id: row.hash, name: row.name, frames: row.frames, sampleRate: row.sampleRate, channels: row.channels }, kind: row.kind }))
    const { kit } = placeSounds(emptyKit('Big'), 0, toPlace)
    const draft = await server.api<KitView>('/api/kits', { method: 'POST', body: { kit } })
    const store = (presetId: string | null) => server.api<JobView>('/api/vault/store', { method: 'POST', body: { kitId: draft.id, kit, name: 'Big', presetId } })
    const first = (await server.ended(await store(null))).result as Stored
    const second = await store(first.presetId)
    const vault = join(data, 'vault')
    await until(() => readdirSync(vault).some(name => name.startsWith('.storing-')))
    await server.stop('SIGKILL')
    await restart()
    const ended = await server.ended(second)
    expect(readdirSync(vault)).toEqual(['Big'])
    for (const revision of readdirSync(join(vault, 'Big')).filter(name => name.startsWith('revision-'))) expect(checkBag(join(vault, 'Big', revision))).toEqual([])
    if (ended.state === 'failed') expect(ended.error).toMatch(/Nothing half-written was kept. Do it again/)
    expect((await server.api<VaultView>('/api/vault')).presets).toHaveLength(1)
    expect((await server.api<KitView>(`/api/kits/${draft.id}`)).kit).toEqual(kit)
  })
})

describe('a scan on the way', () => {
  it('whose folder vanishes says so, and keeps what it has read', async () => {
    const job = await bringIn()
    await until(async () => await total() > 100)
    renameSync(join(samples, 'Pack'), join(samples, 'unplugged'))
    const ended = await server.ended(job)
    expect(ended.state).toBe('failed')
    expect(ended.error).toMatch(/went away during the scan.*are kept.*scan once more/)
    expect(await total()).toBeGreaterThan(100)
    mkdirSync(join(samples, 'other'))
    renameSync(join(samples, 'unplugged'), join(samples, 'Pack'))
    expect(await server.ended(await bringIn())).toMatchObject({ state: 'done', result: { files: FILES, missing: 0, unreadable: 0 } })
  })

  it('is cancelled, keeps what it has read, and asked for twice runs once', async () => {
    const job = await bringIn()
    expect((await bringIn()).id).toBe(job.id)
    await until(async () => await total() > 50)
    await server.api(`/api/jobs/${job.id}/cancel`, { method: 'POST' })
    expect((await server.ended(job)).state).toBe('cancelled')
    expect(await total()).toBeGreaterThan(50)
    expect(existsSync(join(samples, 'Pack', '0', 'Kick 0.wav'))).toBe(true)
  })

  it('is cancelled at any moment, also while its threads begin, and the server goes on', async () => {
    for (let i = 0; i < 10; i++) {
      const job = await bringIn(`Pack/${i}`)
      await new Promise(done => setTimeout(done, 20 * i))
      await server.api(`/api/jobs/${job.id}/cancel`, { method: 'POST' })
      expect(['cancelled', 'done']).toContain((await server.ended(job)).state)
    }
    expect(server.lastWords()).toMatch(/^running/)
    await server.ended(await bringIn())
    expect(await total()).toBe(FILES)
  })

  it('a second server on the same data folder is turned away', async () => {
    await expect(startServer({ data, roots: [samples] })).rejects.toThrow(/Another Emporion/)
  })
})
