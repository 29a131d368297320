import { execFileSync } from 'node:child_process'
import { readFileSync, rmSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { sql, type SQL } from 'drizzle-orm'
import { expect, it } from 'vitest'
import { FIGURES_VERSION } from '../../core/audio/analysis/figures'
import { decodeAudio } from '../../core/audio/decode'
import { formerForms } from '../../core/audio/formerForms'
import { emptyKit } from '../../core/kit/document'
import { placeSounds } from '../../core/kit/edits'
import { openDatabase } from '../../server/db/open'
import type { JobView, ScanResult, Stored } from '../../contract/jobs'
import type { SoundDetail, SoundRow } from '../../contract/library'
import { identityOf } from '../../server/library/analyse'
import { UNKNOWN_BYTES } from '../../server/library/record'
import { readPackage } from '../../server/vault/package'
import { freshFolder, put, waveOf } from '../helpers/folder'
import { startServer } from '../helpers/server'

/** Changes the database of a studio that is not running. */
async function alter(data: string, change: SQL): Promise<void> {
  const database = await openDatabase({ folder: join(data, 'db'), migrationsFolder: 'server/db/migrations', workerFile: resolve('dist/workers/pglite.worker.mjs') })
  await database.db.execute(change)
  await database.close()
}

it('sounds that an older Emporion measured are measured anew at the next start, and nothing else of them changes', async () => {
  const samples = freshFolder()
  const data = freshFolder()
  for (let i = 1; i <= 5; i++) put(samples, `Toms/Tom ${i}.wav`, waveOf(80 + i * 20, 30_000))
  const options = { data, roots: [samples] }
  let server = await startServer(options)
  const scanned = await server.ended(await server.api<JobView>('/api/sources', { method: 'POST', body: { path: join(samples, 'Toms') } }))
  expect(scanned.state).toBe('done')
  const rows = (await server.api<{ rows: SoundRow[] }>('/api/sounds')).rows
  expect(rows.every(row => row.hitLufs !== null)).toBe(true)
  await server.stop()

  await alter(data, sql`update sounds set figures = null, figures_version = 0, hit_lufs = null, flags = '{}' where name <> 'Tom 1'`)

  server = await startServer(options)
  try {
    const [again] = (await server.api<JobView[]>('/api/jobs')).filter(job => job.title === 'Measure Toms anew')
    const ended = await server.ended(again!)
    expect(ended.result as ScanResult).toMatchObject({ files: 5, read: 4, unchanged: 1, unreadable: 0 })
    expect((await server.api<{ rows: SoundRow[] }>('/api/sounds')).rows).toEqual(rows)
    const detail = await server.api<SoundDetail>(`/api/sounds/${rows[2]!.hash}`)
    expect(detail.figures).toMatchObject({ version: FIGURES_VERSION, pitch: { hz: expect.closeTo(140, 0) } })
  }
  finally {
    await server.stop()
  }
})

it('what older readers could not read is tried at the next start, what the disk would not give at the next scan, what is broken not again', async () => {
  const samples = freshFolder()
  const data = freshFolder()
  for (const name of ['Tom 1', 'Tom 2', 'Tom 3']) put(samples, `Toms/${name}.wav`, waveOf(80, 30_000 + name.charCodeAt(4)))
  put(samples, 'Toms/Broken.wav', 'no audio')
  const options = { data, roots: [samples] }
  let server = await startServer(options)
  const bringIn = () => server.api<JobView>('/api/sources', { method: 'POST', body: { path: join(samples, 'Toms') } })
  await server.ended(await bringIn())
  await server.stop()

  await alter(data, sql`update files set sound_id = null, error = 'no such format', readers_version = 0 where path = 'Tom 1.wav'`)

  server = await startServer(options)
  try {
    const [again] = (await server.api<JobView[]>('/api/jobs')).filter(job => job.title === 'Measure Toms anew')
    expect((await server.ended(again!)).result).toMatchObject({ files: 4, read: 1, unchanged: 3, unreadable: 0 })
    expect((await server.ended(await bringIn())).result).toMatchObject({ files: 4, read: 0, unchanged: 4 })
    await server.stop()
    await alter(data, sql`update files set sound_id = null, error = 'EIO', size = ${UNKNOWN_BYTES} where path = 'Tom 2.wav'`)
    server = await startServer(options)
    expect((await server.ended(await bringIn())).result).toMatchObject({ files: 4, read: 1, unchanged: 3, unreadable: 0 })
  }
  finally {
    await server.stop()
  }
})

it('what older readers left out by its name is read at the next start', async () => {
  const samples = freshFolder()
  const data = freshFolder()
  put(samples, 'Toms/Tom 1.wav', waveOf(80, 30_000))
  const options = { data, roots: [samples] }
  let server = await startServer(options)
  await server.ended(await server.api<JobView>('/api/sources', { method: 'POST', body: { path: join(samples, 'Toms') } }))
  await server.stop()

  put(samples, 'Toms/Tom 2.caf', waveOf(90, 30_000))
  await alter(data, sql`update sources set other_files = 2, other_endings = '{"caf": 1, "txt": 1}'`)

  server = await startServer(options)
  try {
    const [again] = (await server.api<JobView[]>('/api/jobs')).filter(job => job.title === 'Measure Toms anew')
    expect((await server.ended(again!)).result).toMatchObject({ files: 2, read: 1, unchanged: 1, otherFiles: 0 })
    await server.stop()
    server = await startServer(options)
    expect((await server.api<JobView[]>('/api/jobs')).filter(job => job.title === 'Measure Toms anew' && job.id !== again!.id)).toEqual([])
  }
  finally {
    await server.stop()
  }
})

it('files that are read otherwise than before keep what was set of them, and kits and presets that name them as they were play on', async () => {
  const [samples, data] = [freshFolder(), freshFolder()]
  const wave = put(samples, 'mono.wav', waveOf(220, 20_000))
  execFileSync('lame', ['--quiet', wave, put(samples, 'Toms/Tom.mp3', '')])
  rmSync(wave)
  const audio = await decodeAudio(readFileSync(join(samples, 'Toms/Tom.mp3')))
  const [now, before] = [identityOf(audio), identityOf(formerForms(audio)[0]!)]
  const options = { data, roots: [samples] }
  let server = await startServer(options)
  await server.ended(await server.api<JobView>('/api/sources', { method: 'POST', body: { path: join(samples, 'Toms') } }))
  const [row] = (await server.api<{ rows: SoundRow[] }>('/api/sounds')).rows
  expect(row).toMatchObject({ hash: now, channels: 1 })
  await server.api('/api/marks', { method: 'POST', body: { ids: [row!.id], addTags: ['kept'], favourite: true } })
  await server.stop()
  // As an earlier version had it: two channels, by another name.
  await alter(data, sql`update sounds set hash = ${before}, former_hash = null, channels = 2, figures_version = 0`)

  server = await startServer(options)
  try {
    const [again] = (await server.api<JobView[]>('/api/jobs')).filter(job => job.title === 'Measure Toms anew')
    await server.ended(again!)
    expect((await server.api<{ rows: SoundRow[] }>('/api/sounds')).rows).toEqual([expect.objectContaining({ hash: now, channels: 1, tags: ['kept'], favourite: true })])
    for (const id of [now, before]) expect((await fetch(`${server.url}/api/audio/${id}`)).status).toBe(200)
    expect(await server.api('/api/library/missing', { method: 'POST', body: { sounds: [now, before] } })).toMatchObject({ missing: [] })
    const { kit } = placeSounds(emptyKit('Of before'), 0, [{ sound: { id: before, name: 'Tom', frames: audio.frames, sampleRate: audio.sampleRate, channels: 2 }, kind: null }])
    const stored = await server.ended(await server.api<JobView>('/api/vault/store', { method: 'POST', body: { kitId: null, kit, name: 'Of before', presetId: null } }))
    expect(stored).toMatchObject({ state: 'done' })
    expect((await readPackage((stored.result as Stored).path, { roots: [data], signal: new AbortController().signal })).problems).toEqual([])
  }
  finally {
    await server.stop()
  }
})
