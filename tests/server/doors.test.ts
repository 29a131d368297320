import { execFileSync, spawnSync } from 'node:child_process'
import { cpSync, existsSync, readdirSync, readFileSync, symlinkSync, utimesSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { JobView, ListedJob } from '../../contract/jobs'
import type { SourceView } from '../../contract/sources'
import type { VaultView } from '../../contract/vault'
import { freshFolder, put, waveOf } from '../helpers/folder'
import { editKitFile, sealBag, storedBag } from '../helpers/presets'
import { startServer, type RunningServer } from '../helpers/server'

// The built server, real files, and what must not come in by any door.
const samples = freshFolder()
const data = freshFolder()
let server: RunningServer

beforeAll(async () => {
  server = await startServer({ data, roots: [samples] })
})
afterAll(() => server.stop())

const post = <T>(path: string, body: unknown) => server.api<T>(path, { method: 'POST', body })
const ended = async (job: Promise<JobView>) => server.ended(await job)
const send = async (path: string, bytes: Uint8Array) => server.ended(await (await fetch(`${server.url}${path}`, { method: 'POST', body: Uint8Array.from(bytes) })).json() as JobView)
const soundIdsOf = (bag: string) => Object.keys((JSON.parse(readFileSync(join(bag, 'data', 'kit.json'), 'utf8')) as { samples: object }).samples)

const STORE_ALL = `
import os, sys, zipfile
with zipfile.ZipFile(sys.argv[1], 'w', zipfile.ZIP_STORED) as made:
    for folder, _, names in os.walk(sys.argv[2]):
        for name in names:
            path = os.path.join(folder, name)
            made.write(path, os.path.relpath(path, os.path.dirname(sys.argv[2])))`

/** A zip of a folder, stored and not packed, as Python's library makes it. */
function zipOf(folder: string): string {
  const zip = join(freshFolder(), 'made.zip')
  execFileSync('python3', ['-c', STORE_ALL, zip, folder])
  return zip
}

/** Swaps two samples of a bag and makes its manifests agree with that. */
function swap(bag: string): string {
  editKitFile(bag, ({ samples: listed }) => {
    const [one, other] = Object.values(listed)
    const path = one!.path
    one!.path = other!.path
    other!.path = path
  })
  sealBag(bag)
  return bag
}

describe('a package whose samples are not what it says', () => {
  it('is refused by the vault, by Fit and by the command line, naming the file', async () => {
    const bag = swap(await storedBag('Swapped'))
    const named = 'is not the sound "Tone 200" that the kit plays'
    expect(await send('/api/vault/import', readFileSync(zipOf(bag)))).toMatchObject({ state: 'failed', error: expect.stringContaining(named) })
    const inRoots = join(samples, 'Swapped')
    cpSync(bag, inRoots, { recursive: true })
    expect(await ended(post('/api/foreign/import', { path: inRoots, middleC: 'C3' }))).toMatchObject({ state: 'failed', error: expect.stringContaining(named) })
    for (const args of [['convert', bag, '--to', 'samples', '--out', freshFolder()], ['verify', bag]]) {
      const { status, stdout, stderr } = spawnSync('node', [`dist/${args[0]!}.mjs`, ...args.slice(1)], { encoding: 'utf8' })
      expect(status).not.toBe(0)
      expect(`${stdout}${stderr}`).toContain(named)
    }
    expect((await server.api<VaultView>('/api/vault')).presets).toEqual([])
  })

  it('put into the vault by hand, is listed with what is wrong, and its samples are not served for what they are not', async () => {
    const bag = swap(await storedBag('By hand'))
    const ids = soundIdsOf(bag)
    await server.stop()
    cpSync(dirname(bag), join(data, 'vault', 'By hand'), { recursive: true })
    server = await startServer({ data, roots: [samples], port: server.port })
    await expect.poll(async () => (await server.api<VaultView>('/api/vault')).presets[0]?.problem, { timeout: 20_000 }).toMatch('is not the sound')
    const statuses = await Promise.all(ids.map(async id => (await fetch(`${server.url}/api/audio/${id}`)).status))
    expect(statuses.sort()).toEqual([200, 404, 404])
    await server.api(`/api/vault/${(await server.api<VaultView>('/api/vault')).presets[0]!.id}`, { method: 'DELETE' })
  })

  it('what was checked once is checked again when its file has changed', async () => {
    const bag = await storedBag('Changed later')
    const [id] = soundIdsOf(bag)
    expect(await send('/api/vault/import', readFileSync(zipOf(bag)))).toMatchObject({ state: 'done' })
    const ask = async () => (await fetch(`${server.url}/api/audio/${id}`)).status
    expect(await ask()).toBe(200)
    const copy = join(data, 'vault', 'Changed later', 'revision-1', 'data', 'samples', 'Tone 200.wav')
    const was = readFileSync(copy)
    writeFileSync(copy, waveOf(555))
    utimesSync(copy, new Date(), new Date('2020-01-01'))
    expect(await ask()).toBe(404)
    expect(await ask()).toBe(404)
    writeFileSync(copy, was)
    expect(await ask()).toBe(200)
  })
})

describe('links and pipes', () => {
  it('are neither followed out of the roots nor waited for, and the server goes on', async () => {
    const elsewhere = freshFolder()
    put(elsewhere, 'kit.sfz', '<region> sample=a.wav key=36')
    put(samples, 'Odd/kick.wav', waveOf(90))
    symlinkSync(join(elsewhere, 'kit.sfz'), join(samples, 'Odd', 'out.sfz'))
    for (const name of ['pipe.sfz', 'pipe.wav', 'pipe.zip']) execFileSync('mkfifo', [join(samples, 'Odd', name)])
    const read = (name: string) => post('/api/foreign/list', { path: join(samples, 'Odd', name) })
    await expect(read('out.sfz')).rejects.toThrow('outside the folders')
    for (const name of ['pipe.sfz', 'pipe.wav', 'pipe.zip']) await expect(read(name)).rejects.toThrow('no regular file')
    expect(await ended(post('/api/foreign/import', { path: join(samples, 'Odd', 'pipe.sfz'), middleC: 'C3' }))).toMatchObject({ state: 'failed' })
    expect(await ended(post('/api/sources', { path: join(samples, 'Odd') }))).toMatchObject({ state: 'done', result: { read: 1 } })
    await expect(post('/api/sources', { path: join(samples, 'Odd', 'pipe.zip') })).rejects.toThrow()
  })
})

describe('archives', () => {
  it('a damaged entry is left out and listed, and the rest comes in', async () => {
    const folder = freshFolder()
    for (let i = 0; i < 5; i++) put(folder, `Hold/kick ${i}.wav`, waveOf(60 + i))
    const zip = readFileSync(zipOf(join(folder, 'Hold')))
    // Stored, not packed: a bit within its samples changes nothing but the checksum.
    const place = zip.indexOf('RIFF', zip.indexOf('kick 3.wav')) + 1000
    zip[place]! ^= 0x40
    const job = await send('/api/archives?name=Hold', zip)
    expect(job).toMatchObject({ state: 'done' })
    await expect.poll(async () => (await server.api<SourceView[]>('/api/sources')).find(source => source.name === 'Hold'), { timeout: 20_000 }).toMatchObject({ files: 4, unreadable: 1 })
    const { id } = (await server.api<SourceView[]>('/api/sources')).find(source => source.name === 'Hold')!
    expect(await server.api(`/api/sources/${id}/unreadable`)).toEqual({ total: 1, shown: [{ path: 'Hold/kick 3.wav', reason: 'It is damaged in the archive: its checksum is another.' }] })
  })

  it('what is no archive is declined in our own words', async () => {
    const job = await send('/api/vault/import', new TextEncoder().encode('PK\x05\x06 but no more'))
    expect(job.error).toBe('This is not a whole zip archive: its list of contents is missing or damaged. Nothing of it was unpacked. Download or copy it again.')
  })
})

describe('what a killed process left', () => {
  it('is cleared at the next start, and counted; nothing that was confirmed is', async () => {
    const bag = await storedBag('Stays')
    expect(await send('/api/vault/import', readFileSync(zipOf(bag)))).toMatchObject({ state: 'done' })
    const { presets } = await server.api<VaultView>('/api/vault')
    await server.stop('SIGKILL')
    const left = ['uploads/.receiving-1/a.wav', 'uploads/.unpacking-1/a.wav', 'uploads/archive-1.zip', 'uploads/Foreign-1/kit.sfz', 'vault/.storing-1/x', 'vault/.importing-1/x', 'vault/.deleting-1/Gone/revision-1/bagit.txt',
      'vault/.bin/Half gone/preset.json', 'vault/Stays/preset.json.1.part', 'targets/.mine.1.part', 'cache/fit/ab/x.json.1.part', 'temp/emporion-kit-1/1.wav', 'cache/exports/.1.part/x']
    for (const path of left) put(data, path, 'x')
    server = await startServer({ data, roots: [samples], port: server.port })
    expect(left.filter(path => existsSync(join(data, path)))).toEqual([])
    expect(server.lastWords()).toContain(`${left.length} files and folders that an earlier run had left half-done were cleared away.`)
    expect((await server.api<VaultView>('/api/vault')).presets).toEqual(presets)
    expect(readdirSync(join(data, 'uploads')).map(name => name.replace(/-[0-9a-f]{8}$/, ''))).toEqual(['Hold'])
  })

  it('the bin is emptied at once or not at all', async () => {
    const { presets } = await server.api<VaultView>('/api/vault')
    for (const { id } of presets) await server.api(`/api/vault/${id}`, { method: 'DELETE' })
    expect((await post<{ deleted: number }>('/api/vault/bin/empty', {})).deleted).toBe(presets.length + 1)
    expect(existsSync(join(data, 'vault', '.bin'))).toBe(false)
    expect(await post('/api/vault/bin/empty', {})).toEqual({ deleted: 0 })
    expect(readdirSync(join(data, 'vault')).filter(name => name.startsWith('.'))).toEqual([])
  })
})

it('no job is left running', async () => {
  expect((await server.api<ListedJob[]>('/api/jobs')).filter(job => job.state === 'running' || job.state === 'waiting')).toEqual([])
})
