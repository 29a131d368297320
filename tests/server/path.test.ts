import { cpSync, existsSync, readdirSync, readFileSync, renameSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { request } from 'node:http'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { emptyKit } from '../../core/kit/document'
import { placeSounds } from '../../core/kit/edits'
import type { JobView, ScanResult, Stored } from '../../contract/jobs'
import type { KitView } from '../../contract/kits'
import type { SearchPage } from '../../contract/library'
import type { SourceView } from '../../contract/sources'
import type { VaultView } from '../../contract/vault'
import { checkBag } from '../conformance/bagit'
import { freshFolder, put, waveOf } from '../helpers/folder'
import { startServer, type RunningServer } from '../helpers/server'

// The real built server, a real database, real files.
let server: RunningServer
let samples: string
let data: string

beforeAll(async () => {
  samples = freshFolder()
  data = freshFolder()
  for (let i = 1; i <= 6; i++) put(samples, `Pack/Kicks/Kick ${i}.wav`, waveOf(50 + i))
  put(samples, 'Pack/Snares/Möwe Snare.wav', waveOf(300))
  cpSync(join(samples, 'Pack/Kicks/Kick 1.wav'), join(samples, 'Pack/Kicks/copy of one.wav'))
  put(samples, 'Pack/Kick not really.wav', 'no audio')
  put(samples, 'Pack/read me.txt', 'text')
  server = await startServer({ data, roots: [samples] })
})
afterAll(() => server.stop())

async function scan(path = join(samples, 'Pack')): Promise<ScanResult> {
  const ended = await server.ended(await server.api<JobView>('/api/sources', { method: 'POST', body: { path } }))
  if (ended.state !== 'done') throw new Error(ended.error ?? ended.state)
  return ended.result as ScanResult
}

const search = (query: string) => server.api<SearchPage>(`/api/sounds?q=${encodeURIComponent(query)}`)

async function storedKit(name: string): Promise<Stored> {
  const { rows } = await search('kind=kick')
  const { kit } = placeSounds(emptyKit(name), 0, rows.slice(0, 3).map(row => ({ sound: { id: row.hash, name: row.name, frames: row.frames, sampleRate: row.sampleRate, channels: row.channels }, kind: row.kind })))
  const draft = await server.api<KitView>('/api/kits', { method: 'POST', body: { kit } })
  const job = await server.ended(await server.api<JobView>('/api/vault/store', { method: 'POST', body: { kitId: draft.id, kit, name, presetId: null } }))
  if (job.state !== 'done') throw new Error(job.error ?? job.state)
  return job.result as Stored
}

describe('bringing in', () => {
  it('reads a folder, counts what it passed over, and reads nothing twice', async () => {
    expect(await scan()).toEqual({ files: 9, read: 8, unchanged: 0, unreadable: 1, missing: 0, back: 0, otherFiles: 1 })
    expect(await scan()).toEqual({ files: 9, read: 0, unchanged: 9, unreadable: 0, missing: 0, back: 0, otherFiles: 1 })
    const [source] = await server.api<SourceView[]>('/api/sources')
    expect(source).toMatchObject({ name: 'Pack', files: 8, unreadable: 1, otherFiles: 1, otherEndings: { txt: 1 } })
    expect(await server.api(`/api/sources/${source!.id}/unreadable`)).toEqual({ total: 1, shown: [{ path: 'Kick not really.wav', reason: expect.stringContaining('no audio that Emporion knows') }] })
  })

  it('knows one sound under two names as one, and finds it by either', async () => {
    expect((await search('')).total).toBe(7)
    const { rows } = await search('copy')
    expect(rows).toHaveLength(1)
    expect(rows[0]).toMatchObject({ fileCount: 2, kind: 'kick' })
    expect((await search('kick 1')).rows[0]!.hash).toBe(rows[0]!.hash)
  })

  it('finds words in any order, by their beginnings, over names and folders, and sorts as people count', async () => {
    expect((await search('snares moewe')).counts).toEqual({ words: 0, kind: 0, near: 1 })
    expect((await search('snar möw')).total).toBe(1)
    expect((await search('pack kick kicks')).rows.map(row => row.name)).toEqual(expect.arrayContaining(['Kick 2', 'Kick 6']))
    expect((await search('x\'; drop table sounds')).total).toBe(0)
    expect((await search('kind=snare')).total).toBe(1)
  })

  it('marks a file that is gone as missing and knows it again when it is back', async () => {
    const path = join(samples, 'Pack/Snares')
    renameSync(path, join(samples, 'elsewhere'))
    expect(await scan()).toMatchObject({ missing: 1 })
    expect((await search('kind=snare')).total).toBe(0)
    renameSync(join(samples, 'elsewhere'), path)
    expect(await scan()).toMatchObject({ missing: 0, read: 0, back: 1 })
    expect((await search('kind=snare')).total).toBe(1)
  })

  it('refuses what lies outside the roots, and links that lead there', async () => {
    symlinkSync('/etc', join(samples, 'link'))
    await expect(scan('/etc')).rejects.toThrow(/outside the folders/)
    await expect(scan(join(samples, 'link'))).rejects.toThrow(/outside the folders/)
    await expect(server.api('/api/browse?path=/etc')).rejects.toThrow(/outside the folders/)
    await expect(server.api(`/api/browse?path=${samples}/../../etc`)).rejects.toThrow(/outside the folders|not there/)
    await expect(server.api('/api/audio/..%2f..%2fetc%2fpasswd')).rejects.toThrow(/SHA-256/)
  })

  it('makes a folder to write into, but in no source, nowhere else, and under no name that leads away', async () => {
    const make = (path: string, name: string) => server.api<{ path: string, folders: unknown[] }>('/api/browse', { method: 'POST', body: { path, name } })
    expect(await make(samples, 'Fähre 1')).toMatchObject({ path: join(samples, 'Fähre 1'), folders: [] })
    expect(existsSync(join(samples, 'Fähre 1'))).toBe(true)
    await expect(make(samples, 'Fähre 1')).rejects.toThrow(/is there already/)
    await expect(make(join(samples, 'Pack'), 'New')).rejects.toThrow(/sources are never written to/)
    await expect(make('/etc', 'New')).rejects.toThrow(/outside the folders/)
    for (const name of ['..', '.hidden', 'a/b', 'ä'.repeat(140)]) await expect(make(samples, name)).rejects.toThrow(/name|long/)
    expect(existsSync(join(samples, 'Pack/New'))).toBe(false)
  })

  it('takes in files that were dropped, and a dropped archive', async () => {
    const begin = async () => (await server.api<{ id: string }>('/api/uploads', { method: 'POST' })).id
    const finish = (upload: string) => server.api<{ sourceId: number, job: JobView }>(`/api/uploads/${upload}/finish`, { method: 'POST', body: { name: 'Dropped' } })
    const id = await begin()
    const send = (path: string, id: string, seed = 777) => fetch(`${server.url}/api/uploads/${id}/file?path=${encodeURIComponent(path)}`, { method: 'PUT', body: Uint8Array.from(waveOf(seed)) })
    expect((await send('Claps/Clap 1.wav', id)).status).toBe(200)
    expect((await send('../../evil.wav', id)).status).toBe(403)
    const first = await finish(id)
    const job = await server.ended(first.job)
    expect(job).toMatchObject({ state: 'done', result: { files: 1, read: 1 } })
    expect((await search('dropped clap')).total).toBe(1)
    expect(await server.api(`/api/sources/${first.sourceId}/sounds`)).toMatchObject({ total: 1, shown: [{ name: 'Clap 1' }] })

    // The same again is the same source; another file under that name is not.
    const again = await begin()
    await send('Claps/Clap 1.wav', again)
    expect((await finish(again)).sourceId).toBe(first.sourceId)
    const other = await begin()
    await send('Claps/Clap 1.wav', other, 778)
    expect((await finish(other)).sourceId).not.toBe(first.sourceId)
    expect(readdirSync(join(data, 'uploads')).filter(name => name.startsWith('Dropped-'))).toHaveLength(2)
    const bad = await fetch(`${server.url}/api/archives?name=bad`, { method: 'POST', body: 'no zip' })
    expect(await server.ended(await bad.json() as JobView)).toMatchObject({ state: 'failed', error: expect.stringContaining('not a whole zip') })
  })
})

describe('kits at work', () => {
  it('an edit that builds on an old revision is refused, and the newer one stays', async () => {
    const draft = await server.api<KitView>('/api/kits', { method: 'POST', body: {} })
    const save = (name: string, baseRevision: number) => server.api(`/api/kits/${draft.id}`, { method: 'PUT', body: { kit: { ...draft.kit, name }, baseRevision, from: 'test' } })
    expect(await save('mine', 1)).toEqual({ revision: 2 })
    await expect(save('theirs', 1)).rejects.toThrow(/changed elsewhere/)
    expect((await server.api<KitView>(`/api/kits/${draft.id}`)).kit.name).toBe('mine')
    await expect(server.api(`/api/kits/${draft.id}`, { method: 'PUT', body: { kit: { nonsense: true }, baseRevision: 2, from: 'x' } })).rejects.toThrow(/not a kit/)
  })
})

describe('the vault', () => {
  it('a preset that is opened again is the kit at work that still is as it is; one that was edited stays beside it', async () => {
    const stored = await storedKit('Looked through')
    const open = () => server.api<KitView>(`/api/vault/${stored.presetId}/open`, { method: 'POST' })
    const first = await open()
    expect((await open()).id).toBe(first.id)
    const edited = { ...first.kit, gainDb: -3 }
    await server.api(`/api/kits/${first.id}`, { method: 'PUT', body: { kit: edited, baseRevision: first.revision, from: 'test' } })
    const second = await open()
    expect(second.id).not.toBe(first.id)
    expect(second.kit).toEqual(first.kit)
    expect((await server.api<KitView>(`/api/kits/${first.id}`)).kit).toEqual(edited)
    await server.api(`/api/kits/${first.id}`, { method: 'DELETE' })
    await server.api(`/api/kits/${second.id}`, { method: 'DELETE' })
    await server.api(`/api/vault/${stored.presetId}`, { method: 'DELETE' })
    await server.api('/api/vault/bin/empty', { method: 'POST', body: {} })
  })

  it('stores, plays with its sources gone, exports, and is imported on another data folder', async () => {
    const stored = await storedKit('Night deck')
    expect(checkBag(stored.path)).toEqual([])
    renameSync(join(samples, 'Pack'), join(samples, 'gone'))
    const { kit } = await server.api<KitView>(`/api/vault/${stored.presetId}/open`, { method: 'POST' })
    for (const pad of kit.pads.filter(one => one.layers.length > 0)) {
      const audio = await fetch(`${server.url}/api/audio/${pad.layers[0]!.sound.id}`)
      expect(audio.status).toBe(200)
      expect((await audio.arrayBuffer()).byteLength).toBe(waveOf(51).length)
    }
    const zip = new Uint8Array(await (await fetch(`${server.url}/api/vault/${stored.presetId}/package`)).arrayBuffer())
    renameSync(join(samples, 'gone'), join(samples, 'Pack'))

    const other = await startServer({ data: freshFolder(), roots: [samples] })
    try {
      const send = async (bytes: Uint8Array) => other.ended(await (await fetch(`${other.url}/api/vault/import`, { method: 'POST', body: Uint8Array.from(bytes) })).json() as JobView)
      expect(await send(zip)).toMatchObject({ state: 'done', result: { state: 'imported', name: 'Night deck', revision: 1 } })
      const { presets, path } = await other.api<VaultView>('/api/vault')
      expect(presets).toHaveLength(1)
      expect(checkBag(join(path, 'Night deck', 'revision-1'))).toEqual([])
      const again = await send(zip)
      expect(again.result).toMatchObject({ state: 'name-taken' })
      const { archive } = again.result as { archive: string }
      const then = await other.ended(await other.api<JobView>('/api/vault/import-as', { method: 'POST', body: { archive, onConflict: 'rename' } }))
      expect(then.result).toMatchObject({ name: 'Night deck 2' })
      const damaged = zip.slice()
      const place = Buffer.from(damaged).indexOf('RIFF') + 60
      damaged[place]! ^= 1
      expect(await send(damaged)).toMatchObject({ state: 'failed' })
      expect((await other.api<VaultView>('/api/vault')).presets).toHaveLength(2)
    }
    finally {
      await other.stop()
    }
  })

  it('renames, duplicates, deletes to the bin, restores and empties', async () => {
    const stored = await storedKit('Quay')
    await expect(server.api(`/api/vault/${stored.presetId}/rename`, { method: 'POST', body: { name: 'night DECK' } })).rejects.toThrow(/already/)
    await server.api(`/api/vault/${stored.presetId}/rename`, { method: 'POST', body: { name: 'Quay / nine' } })
    expect(existsSync(join(data, 'vault', 'Quay _ nine', 'revision-1', 'bagit.txt'))).toBe(true)
    const copy = await server.ended(await server.api<JobView>(`/api/vault/${stored.presetId}/duplicate`, { method: 'POST', body: { name: 'Quay copy' } }))
    expect(checkBag((copy.result as Stored).path)).toEqual([])
    await server.api(`/api/vault/${stored.presetId}`, { method: 'DELETE' })
    expect((await server.api<VaultView>('/api/vault')).presets.map(preset => preset.name)).toEqual(['Night deck', 'Quay copy'])
    const [entry] = await server.api<{ entry: string, name: string }[]>('/api/vault/bin')
    expect(await server.api('/api/vault/bin/restore', { method: 'POST', body: { entry: entry!.entry } })).toEqual({ name: 'Quay / nine' })
    await server.api(`/api/vault/${stored.presetId}`, { method: 'DELETE' })
    expect(await server.api('/api/vault/bin/empty', { method: 'POST' })).toEqual({ deleted: 1 })
    await expect(server.api('/api/vault/bin/restore', { method: 'POST', body: { entry: '../../x' } })).rejects.toThrow(/no longer in the bin/)
  })

  it('is read back whole when the database is deleted', async () => {
    const before = await server.api<VaultView>('/api/vault')
    await server.stop()
    rmSync(join(data, 'db'), { recursive: true })
    server = await startServer({ data, roots: [samples], port: server.port })
    const after = await server.api<VaultView>('/api/vault')
    expect(after.presets).toEqual(before.presets)
    expect((await server.api<KitView>(`/api/vault/${after.presets[0]!.id}/open`, { method: 'POST' })).kit.pads[0]!.layers).toHaveLength(1)
  })
})

describe('the door', () => {
  const ask = (path: string, headers: Record<string, string>) => new Promise<number>((done, fail) => {
    request({ host: '127.0.0.1', port: server.port, path, headers }, (response) => {
      response.resume()
      done(response.statusCode ?? 0)
    }).once('error', fail).end()
  })

  it('is shut to foreign hosts and origins, for pages, files and routes alike', async () => {
    const asset = readdirSync('.output/public/_nuxt').find(name => name.endsWith('.js'))
    for (const path of ['/', '/library', '/api/status', `/_nuxt/${asset}`, '/mark.svg']) {
      expect(await ask(path, { Host: 'emporion.example' }), path).toBe(403)
      expect(await ask(path, { Host: `127.0.0.1:${server.port}`, Origin: 'http://elsewhere.example' }), path).toBe(403)
      expect(await ask(path, { Host: `127.0.0.1:${server.port}` }), path).toBe(200)
    }
  })

  it('leaves the sources as they were', () => {
    expect(readFileSync(join(samples, 'Pack/Kicks/Kick 1.wav'))).toEqual(Buffer.from(waveOf(51)))
    expect(readdirSync(join(samples, 'Pack/Kicks')).length).toBe(7)
    writeFileSync(join(samples, 'done'), '')
  })
})
