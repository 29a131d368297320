import { createHash } from 'node:crypto'
import { renameSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { writeWave } from '../../core/audio/wave/write'
import { emptyKit } from '../../core/kit/document'
import { placeSounds } from '../../core/kit/edits'
import { Random } from '../../demo/synth/dsp'
import { kick, snare, tom } from '../../demo/synth/drums'
import type { JobView, Stored } from '../../contract/jobs'
import type { SearchPage } from '../../contract/library'
import { freshFolder, put } from '../helpers/folder'
import { startPostgres, type RunningPostgres } from '../helpers/postgres'
import { startServer, type RunningServer } from '../helpers/server'

// One studio on PGlite and one on a PostgreSQL server of Debian's packages, with the same files: both must say the same.
const RATE = 44_100
const samples = freshFolder()
const folders = [freshFolder(), freshFolder()]
let postgres: RunningPostgres
let databaseUrl: string
let studios: RunningServer[]

const wave = (hit: Float32Array) => writeWave([hit], RATE, { depth: 24 })
const on = <T>(ask: (studio: RunningServer) => Promise<T>): Promise<T[]> => Promise.all(studios.map(ask))

/** Asks both, and gives what both answered. */
async function both<T>(ask: (studio: RunningServer) => Promise<T>): Promise<T> {
  const [pglite, server] = await on(ask)
  expect(server).toEqual(pglite)
  return pglite!
}

const found = (query: string, more = '') => async (studio: RunningServer) => {
  const { rows, counts } = await studio.api<SearchPage>(`/api/sounds?q=${encodeURIComponent(query)}${more}`)
  return { counts, rows: rows.map(({ id: _id, addedAt: _added, ...row }) => row) }
}
const ids = async (studio: RunningServer, query: string) => (await studio.api<SearchPage>(`/api/sounds?q=${encodeURIComponent(query)}`)).rows.map(row => row.id)
const send = async (studio: RunningServer, path: string, body: unknown, method = 'POST') => studio.api<JobView>(path, { method, body })
const done = async (studio: RunningServer, path: string, body: unknown = {}) => {
  const job = await studio.ended(await send(studio, path, body))
  if (job.state !== 'done') throw new Error(job.error ?? job.state)
  return job
}
const bringIn = (studio: RunningServer) => done(studio, '/api/sources', { path: join(samples, 'Ferry') })
const open = (which: number) => startServer({ data: folders[which]!, roots: [samples], databaseUrl: which === 0 ? undefined : databaseUrl })

beforeAll(async () => {
  for (let i = 1; i <= 12; i++) {
    put(samples, `Ferry/kicks/Käfer ${i}_${['p', 'mf', 'ff'][i % 3]}.wav`, wave(kick(false)(new Random(i), 0.8)))
    put(samples, `Ferry/Snares/snare-${i}.wav`, wave(snare(new Random(100 + i), 0.8)))
    put(samples, `Ferry/Toms/_Tom ${i}.wav`, wave(tom(70 + 9 * i, 110)(new Random(200 + i), 0.8)))
  }
  put(samples, 'Ferry/ängste/silence.wav', wave(new Float32Array(4000)))
  put(samples, 'Ferry/broken.wav', Buffer.from('RIFF is all there is'))
  postgres = await startPostgres()
  databaseUrl = await postgres.database('studio')
  studios = await Promise.all([0, 1].map(open))
  await on(bringIn)
  // Of two files that hold one sound the first to come names it, and that may be either of one scan.
  put(samples, 'Ferry/Zoë/again.wav', wave(kick(false)(new Random(1), 0.8)))
  await on(bringIn)
})
afterAll(async () => {
  await on(studio => studio.stop())
  await postgres.stop()
})

it('a search, sorted by anything, finds the same in the same order', async () => {
  const queries = ['', 'kick', 'käfer', 'kafer', 'kind=tom', 'length<0.4', 'in=toms', '-snare', 'is=silent', 'note>40', 'bright<30']
  for (const query of queries) await both(found(query))
  for (const sort of ['name', 'folder', 'kind', 'length', 'loudness', 'bright', 'note']) await both(found('', `&sort=${sort}&descending=true`))
  expect((await both(found('in=toms'))).rows).toHaveLength(12)
})

it('lists of a source, of copies and of what can be chosen are the same', async () => {
  const [source] = await studios[0]!.api<{ id: number }[]>('/api/sources')
  const paths = ['flagged', 'families', 'unreadable', 'missing', 'rules'].map(list => `/api/sources/${source!.id}/${list}`)
  for (const path of [...paths, '/api/sources', '/api/library/kinds', '/api/library/duplicates', '/api/sounds/facets?q=', '/api/patterns']) {
    const said = await both(async studio => JSON.stringify(await studio.api(path), (key, value: unknown) => ['id', 'soundId', 'updatedAt', 'lastScanAt'].includes(key) ? undefined : value))
    expect(said.length, path).toBeGreaterThan(10)
  }
  const lines = await both(async studio => (await (await fetch(`${studio.url}/api/sources/${source!.id}/list`)).text()).split('\r\n').sort())
  expect(lines).toHaveLength(40)
})

it('what is set by hand, undone, renamed and scanned again comes to the same', async () => {
  await on(async studio => send(studio, '/api/marks', { ids: await ids(studio, 'in=toms'), kind: 'hand.conga', addTags: ['Öl', 'aft deck'], favourite: true, note: 'the aft deck\'s' }))
  expect((await both(found('kind=hand.conga tag=öl is=favourite'))).rows).toHaveLength(12)
  await on(async studio => send(studio, '/api/marks', { ids: await ids(studio, '"_tom 3"'), removeTags: ['Öl'] }))
  await on(studio => send(studio, '/api/marks/undo', {}))
  renameSync(join(samples, 'Ferry/Toms'), join(samples, 'Ferry/Congas'))
  rmSync(join(samples, 'Ferry/Snares/snare-4.wav'))
  put(samples, 'Ferry/Snares/snare-5.wav', wave(snare(new Random(105), 0.8).slice(0, 6000)))
  const [source] = await studios[0]!.api<{ id: number }[]>('/api/sources')
  const scanned = await both(async studio => (await done(studio, `/api/sources/${source!.id}/scan`)).result)
  expect(scanned).toMatchObject({ read: 13, missing: 1 })
  expect((await both(found('kind=hand.conga tag=öl is=favourite in=congas'))).rows).toHaveLength(12)
  await both(found('snare'))
})

it('a preset is stored, and all is there when both open again', async () => {
  const hashes = await both(async (studio) => {
    const { rows } = await studio.api<SearchPage>('/api/sounds?q=kick')
    const { kit } = placeSounds(emptyKit('Deck'), 0, rows.slice(0, 4).map(row => ({ sound: { id: row.hash, name: row.name, frames: row.frames, sampleRate: row.sampleRate, channels: row.channels }, kind: row.kind })))
    const job = await done(studio, '/api/vault/store', { kitId: null, kit, name: 'Deck', presetId: null })
    const { presetId } = job.result as Stored
    expect(presetId).toBeTruthy()
    return kit.pads.flatMap(pad => pad.layers.map(layer => layer.sound.id))
  })
  expect(hashes).toHaveLength(4)
  const before = await both(found(''))
  await on(studio => studio.stop())
  studios = await Promise.all([0, 1].map(open))
  expect(createHash('sha256').update(JSON.stringify(await both(found('')))).digest('hex')).toBe(createHash('sha256').update(JSON.stringify(before)).digest('hex'))
  await both(async studio => (await studio.api<{ presets: { name: string, pads: number }[] }>('/api/vault')).presets.map(({ name, pads }) => ({ name, pads })))
})

it('one database is for one studio at a time, whatever its data folder', async () => {
  const second = startServer({ data: freshFolder(), roots: [samples], databaseUrl })
  await expect(second).rejects.toThrow('Another Emporion is using the database that DATABASE_URL names')
})
