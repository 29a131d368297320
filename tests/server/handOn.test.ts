import { mkdirSync, renameSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { sql } from 'drizzle-orm'
import { afterAll, beforeAll, beforeEach, expect, it } from 'vitest'
import { openDatabase } from '../../server/db/open'
import type { JobView } from '../../contract/jobs'
import type { SoundRow } from '../../contract/library'
import type { TrayItem, TrayView } from '../../contract/tray'
import { freshFolder, put, waveOf } from '../helpers/folder'
import { startServer, type RunningServer } from '../helpers/server'

// The real built server, a real database, files that are edited in place.
let server: RunningServer
const samples = freshFolder()
const data = freshFolder()

beforeAll(async () => {
  server = await startServer({ data, roots: [samples] })
})
afterAll(() => server.stop())

const post = <T>(path: string, body: unknown) => server.api<T>(path, { method: 'POST', body })
const rowsOf = async (folder: string) => (await server.api<{ rows: SoundRow[] }>(`/api/sounds?q=${folder}`)).rows
const putOnTray = (sounds: readonly string[]) => post(`/api/trays/${tray}/sounds`, { hashes: sounds, from: 'test' })
const hashes = async () => (await server.api<TrayItem[]>(`/api/trays/${tray}`)).map(item => item.row.hash)
const marksOf = (row: SoundRow | undefined) => row && { name: row.name, kind: row.kind, tags: row.tags, favourite: row.favourite }
const MARKS = { kind: 'wood.block', tags: ['crate'], favourite: true }
let tray: number
let folder: string
let count = 0

/** Scans the folder of a test, once a scan that began by itself, maybe before the last change, has ended. */
async function scan(): Promise<void> {
  for (const job of await server.api<JobView[]>('/api/jobs')) await server.ended(job)
  await server.ended(await post<JobView>('/api/sources', { path: join(samples, folder) }))
}

/** Brings in the folder of a test. */
async function bringIn(files: Readonly<Record<string, Uint8Array>>): Promise<void> {
  for (const [name, bytes] of Object.entries(files)) put(samples, `${folder}/${name}`, bytes)
  await scan()
}

/** Sets marks on the sound of that name. */
async function mark(name: string, marks = MARKS): Promise<SoundRow> {
  const row = (await rowsOf(folder)).find(candidate => candidate.name === name)!
  await post('/api/marks', { ids: [row.id], kind: marks.kind, addTags: marks.tags, favourite: marks.favourite })
  return row
}

beforeEach(async () => {
  folder = `Shed${++count}`
  tray = (await post<TrayView>('/api/trays', { name: folder })).id
})

it('goes on to what a file holds after it was edited in place, with its place on the tray; the former sound keeps its own and has it when it is back', async () => {
  await bringIn({ 'one.wav': waveOf(210), 'two.wav': waveOf(211), 'three.wav': waveOf(212) })
  const former = await mark('two')
  const [one, two, three] = ['one', 'two', 'three'].map(name => (rows: readonly SoundRow[]) => rows.find(row => row.name === name)!)
  const before = await rowsOf(folder)
  await putOnTray([one!, two!, three!].map(of => of(before).hash))

  put(samples, `${folder}/two.wav`, waveOf(213, 3000))
  await scan()
  const after = await rowsOf(folder)
  expect(two!(after).hash).not.toBe(former.hash)
  expect(marksOf(two!(after))).toEqual({ name: 'two', ...MARKS })
  expect(await hashes()).toEqual([one!, two!, three!].map(of => of(after).hash))
  expect(marksOf(one!(after))).toMatchObject({ tags: [], favourite: false })

  put(samples, `${folder}/other.wav`, waveOf(211))
  await scan()
  expect(marksOf((await rowsOf(folder)).find(row => row.hash === former.hash))).toEqual({ name: 'other', ...MARKS })
})

it('does not go on to what took the place of a file that was moved away, though that is found later', async () => {
  await bringIn({ 'b.wav': waveOf(220) })
  const former = await mark('b')
  await putOnTray([former.hash])
  mkdirSync(join(samples, folder, 'away'))
  renameSync(join(samples, folder, 'b.wav'), join(samples, folder, 'away/b.wav'))
  put(samples, `${folder}/b.wav`, waveOf(221))
  await scan()
  const rows = await rowsOf(folder)
  expect(rows.find(row => row.hash === former.hash)).toMatchObject(MARKS)
  expect(rows.find(row => row.hash !== former.hash)).toMatchObject({ tags: [], favourite: false })
  expect(await hashes()).toEqual([former.hash])
})

it('changes nothing of a sound of which something was set already, and of two that become one the first hands on', async () => {
  await bringIn({ 'a.wav': waveOf(230), 'b.wav': waveOf(231), 'c.wav': waveOf(232), 'own.wav': waveOf(233) })
  await mark('a', { kind: 'kick', tags: ['first'], favourite: false })
  await mark('b', { kind: 'snare', tags: ['second'], favourite: true })
  await mark('c', { kind: 'tom.low', tags: ['third'], favourite: true })
  const own = await mark('own', { kind: 'rim', tags: ['own'], favourite: false })
  await putOnTray((await rowsOf(folder)).map(row => row.hash))
  const same = waveOf(234)
  put(samples, `${folder}/a.wav`, same)
  put(samples, `${folder}/b.wav`, same)
  put(samples, `${folder}/c.wav`, waveOf(233))
  await scan()
  const rows = await rowsOf(folder)
  expect(rows.map(row => row.fileCount)).toEqual([2, 2])
  expect(rows.find(row => row.hash === own.hash)).toMatchObject({ kind: 'rim', tags: ['own'], favourite: false })
  expect(rows.find(row => row.hash !== own.hash)).toMatchObject({ kind: 'kick', tags: ['first'], favourite: false })
  // The others, of which no file is left, stay on the tray as they were.
  expect((await hashes()).filter(hash => rows.some(row => row.hash === hash))).toHaveLength(2)
  expect(await hashes()).toHaveLength(4)
})

it('outlasts a time in which the file can\'t be read', async () => {
  await bringIn({ 'a.wav': waveOf(240) })
  await mark('a')
  put(samples, `${folder}/a.wav`, 'no audio any more')
  await scan()
  expect(await rowsOf(folder)).toEqual([])
  put(samples, `${folder}/a.wav`, waveOf(241))
  await scan()
  expect(marksOf((await rowsOf(folder))[0])).toEqual({ name: 'a', ...MARKS })
})

it('goes on to what better readers make of a file that nobody has touched', async () => {
  await bringIn({ 'a.wav': waveOf(250), 'b.wav': waveOf(251) })
  const { hash } = await mark('a')
  await putOnTray([hash])
  await server.stop()
  const database = await openDatabase({ folder: join(data, 'db'), migrationsFolder: 'server/db/migrations', workerFile: resolve('dist/workers/pglite.worker.mjs') })
  const misread = hash.replace(/./g, digit => digit === '0' ? '1' : '0')
  for (const table of ['sounds SET figures_version = 0, hash', 'tray_sounds SET sound_hash']) {
    await database.db.execute(sql`UPDATE ${sql.raw(table)} = ${misread} WHERE ${sql.raw(table.split(' ').at(-1)!)} = ${hash}`)
  }
  await database.close()
  server = await startServer({ data, roots: [samples] })
  const [again] = (await server.api<JobView[]>('/api/jobs')).filter(job => job.title === `Measure ${folder} anew`)
  expect((await server.ended(again!)).result).toMatchObject({ read: 1, unchanged: 1 })
  expect(marksOf((await rowsOf(folder)).find(row => row.hash === hash))).toEqual({ name: 'a', ...MARKS })
  expect(await hashes()).toEqual([hash])
})
