import { renameSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, beforeEach, expect, it } from 'vitest'
import type { JobView } from '../../contract/jobs'
import type { SearchPage, SoundRow, StandIns } from '../../contract/library'
import { writeWave } from '../../core/audio/wave/write'
import { freshFolder, put, waveOf } from '../helpers/folder'
import { startServer, type RunningServer } from '../helpers/server'
import { STRUCK_RATE, struck } from '../helpers/struck'

// The real built server, a real database, files that are edited in place, taken away and written anew.
let server: RunningServer
const samples = freshFolder()

beforeAll(async () => {
  server = await startServer({ data: freshFolder(), roots: [samples] })
})
afterAll(() => server.stop())

const post = <T>(path: string, body: unknown) => server.api<T>(path, { method: 'POST', body })
const rowsOf = async () => (await server.api<SearchPage>(`/api/sounds?q=${folder}`)).rows
let folder: string
let count = 0

beforeEach(() => {
  folder = `Mole${++count}`
})

async function scan(): Promise<void> {
  for (const job of await server.api<JobView[]>('/api/jobs')) await server.ended(job)
  expect((await server.ended(await post<JobView>('/api/sources', { path: join(samples, folder) }))).state).toBe('done')
}

async function bringIn(files: Readonly<Record<string, Uint8Array>>): Promise<Record<string, SoundRow>> {
  for (const [name, bytes] of Object.entries(files)) put(samples, `${folder}/${name}`, bytes)
  await scan()
  return Object.fromEntries((await rowsOf()).map(row => [row.name, row]))
}

async function standInsOf({ hash, name, frames, sampleRate }: Pick<SoundRow, 'hash' | 'name' | 'frames' | 'sampleRate'>): Promise<StandIns> {
  return (await post<Record<string, StandIns>>('/api/library/stand-ins', { sounds: [{ id: hash, name, frames, sampleRate }] }))[hash]!
}

const named = ({ standIns }: StandIns) => standIns.map(({ reason, isSure, row }) => [reason, isSure, `${row.folder}/${row.name}`])

it('what a file holds now stands in for what it held, however often it was edited in place, and once it was moved', async () => {
  const { Snare } = await bringIn({ 'Snare.wav': waveOf(510), 'other.wav': waveOf(511) })
  put(samples, `${folder}/Snare.wav`, waveOf(512, 3000))
  await scan()
  put(samples, `${folder}/Snare.wav`, waveOf(513, 2000))
  await scan()
  renameSync(join(samples, folder, 'Snare.wav'), join(samples, folder, 'Snare short.wav'))
  await scan()
  const found = await standInsOf(Snare!)
  expect(named(found)).toEqual([['file', true, `${folder}/Snare short`]])
  expect(found.folder).toBe(folder)
  expect(found.standIns[0]!.row.frames).toBe(2000)

  // Something else may have been written there.
  await post('/api/marks', { ids: [found.standIns[0]!.row.id], kind: 'kick' })
  expect(named(await standInsOf(Snare!))).toEqual([['file', false, `${folder}/Snare short`]])
})

it('a file that was edited back stands in for what it held meanwhile', async () => {
  await bringIn({ 'bell.wav': waveOf(520) })
  const { bell: meanwhile } = await bringIn({ 'bell.wav': waveOf(521) })
  const { bell } = await bringIn({ 'bell.wav': waveOf(520) })
  expect(named(await standInsOf(meanwhile!))).toEqual([['file', true, `${folder}/bell`]])
  expect((await standInsOf(bell!)).standIns).toEqual([])
})

it('sounds of the same name stand in, those of its kind and length first, and surely', async () => {
  await bringIn({ 'Kick.wav': waveOf(530, 4000), 'a/kick.wav': waveOf(531, 9000), 'b/Kick.wav': waveOf(532, 4100), 'c/Kicks.wav': waveOf(533, 4000) })
  const own = (await rowsOf()).find(row => row.folder === folder && row.name === 'Kick')!
  rmSync(join(samples, folder, 'Kick.wav'))
  await scan()
  expect(named(await standInsOf(own))).toEqual([['name', true, `${folder}/b/Kick`], ['name', false, `${folder}/a/kick`]])
})

it('the same recording stands in, once it was looked for; and what sounds alike is found though the file is gone', async () => {
  const knocked = struck('cowbell', 4)
  const burst = (gain: number) => writeWave([knocked.map(sample => sample * gain)], STRUCK_RATE, { depth: 24 })
  const { knock } = await bringIn({ 'knock.wav': burst(0.9), 'take.wav': burst(0.4), 'far.wav': waveOf(540) })
  expect((await server.ended(await post<JobView>('/api/library/compare', {}))).state).toBe('done')
  rmSync(join(samples, folder, 'knock.wav'))
  await scan()
  const found = await standInsOf(knock!)
  expect(named(found)).toEqual([['recording', true, `${folder}/take`]])
  const alike = await server.api<SearchPage>(`/api/sounds?q=${encodeURIComponent(`like=${found.comparableId} ${folder}`)}`)
  expect(alike.rows[0]).toMatchObject({ name: 'take' })
})

it('what lies in a folder that is away just now stands in for nothing', async () => {
  const { Snare } = await bringIn({ 'Snare.wav': waveOf(570) })
  await bringIn({ 'Snare.wav': waveOf(571) })
  renameSync(join(samples, folder), join(samples, `${folder} away`))
  expect((await standInsOf(Snare!)).standIns).toEqual([])
  renameSync(join(samples, `${folder} away`), join(samples, folder))
  expect(named(await standInsOf(Snare!))).toEqual([['file', true, `${folder}/Snare`]])
})

it('of what the library never knew only the name is gone by; and silence is compared with nothing', async () => {
  const { 'Rail Ä': rail } = await bringIn({ 'Rail Ä.wav': waveOf(550), 'mute.wav': waveOf(0) })
  const unknown = await standInsOf({ hash: 'e'.repeat(64), name: 'rail Ä', frames: 4000, sampleRate: 44_100 })
  expect(unknown).toMatchObject({ comparableId: null, folder: null })
  expect(unknown.standIns.map(({ row }) => row.hash)).toEqual([rail!.hash])
  expect(unknown.standIns[0]).toMatchObject({ reason: 'name', isSure: false })
  const [mute] = (await rowsOf()).filter(row => row.name === 'mute')
  expect((await standInsOf(mute!)).comparableId).toBeNull()
})

it('tells which sounds have no file any more, until they have one again', async () => {
  const { a, b } = await bringIn({ 'a.wav': waveOf(560), 'b.wav': waveOf(561) })
  const missing = async () => (await post<{ missing: string[] }>('/api/library/missing', { sounds: [a!.hash, b!.hash, 'f'.repeat(64)] })).missing
  expect((await post<{ containers: object }>('/api/library/missing', { sounds: [a!.hash, 'f'.repeat(64)] })).containers).toEqual({ [a!.hash]: 'WAVE' })
  rmSync(join(samples, folder, 'b.wav'))
  await scan()
  expect(await missing()).toEqual([b!.hash, 'f'.repeat(64)])
  await bringIn({ 'again/b.wav': waveOf(561) })
  expect(await missing()).toEqual(['f'.repeat(64)])
})

it('tells which sounds can\'t be found now, though the library has them still: those of a drive that is away', async () => {
  const { a, b } = await bringIn({ 'a.wav': waveOf(583), 'b.wav': waveOf(584) })
  const missing = (more: object) => post<{ missing: string[] }>('/api/library/missing', { sounds: [a!.hash, b!.hash], ...more })
  expect(await missing({ onDisk: true })).toMatchObject({ missing: [] })
  renameSync(join(samples, folder), join(samples, `${folder} away`))
  expect(await missing({})).toMatchObject({ missing: [] })
  expect(await missing({ onDisk: true })).toMatchObject({ missing: [a!.hash, b!.hash] })
})

it('refuses what names no sound', async () => {
  await expect(post('/api/library/stand-ins', { sounds: [{ id: 'no hash', name: 'a', frames: 1, sampleRate: 1 }] })).rejects.toThrow('SHA-256')
})
