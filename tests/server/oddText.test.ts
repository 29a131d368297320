import { spawnSync } from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { emptyKit } from '../../core/kit/document'
import { renameKit } from '../../core/kit/edits'
import type { JobView, ScanResult } from '../../contract/jobs'
import type { KitView } from '../../contract/kits'
import type { SearchPage, SoundDetail } from '../../contract/library'
import type { Listed, SourceView, UnreadableFile } from '../../contract/sources'
import type { TrayView } from '../../contract/tray'
import { freshFolder, put, waveOf } from '../helpers/folder'
import { startServer, type RunningServer } from '../helpers/server'

// NUL and halves of surrogate pairs are kept by no database: one file that holds such must not end the scan of thousands.
let server: RunningServer
let samples: string

const post = <T>(path: string, body: unknown, method = 'POST') => server.api<T>(path, { method, body })
const found = async (query: string) => (await server.api<SearchPage>(`/api/sounds?q=${encodeURIComponent(query)}`)).rows

/** Writes other bytes in place of some in a file. */
function patch(path: string, from: Buffer, to: Buffer): void {
  const bytes = readFileSync(path)
  const at = bytes.indexOf(from)
  expect(at).toBeGreaterThan(0)
  to.copy(bytes, at)
  writeFileSync(path, bytes)
}

beforeAll(async () => {
  samples = freshFolder()
  const folder = join(samples, 'Pack')
  put(folder, 'plain.wav', waveOf(300))
  put(folder, 'a.wav', waveOf(301))
  put(folder, 'b.wav', waveOf(302))
  expect(spawnSync('flac', ['-s', '--delete-input-file', '-T', 'TITLE=Deck aXb', '-T', 'KEY=cXd', join(folder, 'a.wav')]).status).toBe(0)
  patch(join(folder, 'a.flac'), Buffer.from('aXb'), Buffer.from('a\0b'))
  patch(join(folder, 'a.flac'), Buffer.from('cXd'), Buffer.from('c\0d'))
  expect(spawnSync('lame', ['--quiet', '--id3v2-only', '--id3v2-utf16', '--tt', 'Hold aXb', join(folder, 'b.wav'), join(folder, 'b.mp3')]).status).toBe(0)
  patch(join(folder, 'b.mp3'), Buffer.from('X', 'utf16le'), Buffer.from([0x00, 0xD8]))
  expect(spawnSync('sox', ['-n', '-r', '44100', '-c', '1', '-b', '16', join(folder, 'c.aifc'), 'synth', '0.1', 'sine', '303']).status).toBe(0)
  patch(join(folder, 'c.aifc'), Buffer.from('NONE'), Buffer.from([0, 1, 2, 3]))
  server = await startServer({ data: freshFolder(), roots: [samples] })
})
afterAll(() => server.stop())

it('files that hold such text in their tags, or as the name of a coding, are read or named like others', async () => {
  const job = await server.ended(await post<JobView>('/api/sources', { path: join(samples, 'Pack') }))
  expect(job).toMatchObject({ state: 'done', error: null })
  expect(job.result as ScanResult).toMatchObject({ files: 5, read: 4, unreadable: 1 })
  const [source] = await server.api<SourceView[]>('/api/sources')
  expect(await server.api<Listed<UnreadableFile>>(`/api/sources/${source!.id}/unreadable`)).toEqual({ total: 1, shown: [{ path: 'c.aifc', reason: expect.stringContaining('coded as "????"') }] })
  const tags = async (name: string) => {
    // The WAVE that the MP3 was made of is called so as well.
    const [row] = (await found('')).filter(one => one.name === name && one.container !== 'WAVE')
    return (await server.api<SoundDetail>(`/api/sounds/${row!.hash}`)).embedded.tags
  }
  expect(await tags('a')).toEqual({ texts: { title: 'Deck a b' }, key: 'c d' })
  expect((await tags('b'))!.texts.title).toMatch(/^Hold a.?b$/)
})

it('what is asked with such text is done without it, or answered in words', async () => {
  const tray = await post<TrayView>('/api/trays', { name: 'For\0the break \uD83E' })
  expect(tray.name).toBe('For the break')
  const [row] = await found('plain')
  await post('/api/marks', { ids: [row!.id], addTags: ['aft\0deck'], note: 'half \uDD41 a drum' })
  expect((await found('tag="aft deck"')).map(one => one.name)).toEqual(['plain'])
  const [source] = await server.api<SourceView[]>('/api/sources')
  await post(`/api/sources/${source!.id}`, { name: 'Pa\0ck' }, 'PATCH')
  expect((await server.api<SourceView[]>('/api/sources')).map(one => one.name)).toEqual(['Pa ck'])
  const { id } = await post<KitView>('/api/kits', { kit: renameKit(emptyKit('Deck'), 'De\0ck \uD83E') })
  expect((await server.api<KitView>(`/api/kits/${id}`)).kit.name).toBe('De ck ')
  expect(await found('plain\0')).toHaveLength(1)
  await expect(server.api('/api/patterns/%00')).rejects.toThrow(/pattern/)
  await expect(server.api('/api/vault/%00')).rejects.toThrow(/preset/)
})
