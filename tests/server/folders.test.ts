import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { FolderCount } from '../../core/search/catalogue/folders'
import type { JobView } from '../../contract/jobs'
import type { BrowsedFolder, SourceView } from '../../contract/sources'
import type { FavouriteFolder } from '../../contract/searches'
import type { SearchPage } from '../../contract/library'
import { freshFolder, put, waveOf } from '../helpers/folder'
import { startServer, type RunningServer } from '../helpers/server'

let server: RunningServer
let samples: string
let source: SourceView

beforeAll(async () => {
  samples = freshFolder()
  const data = freshFolder()
  for (const [i, path] of ['Kicks/Kick 2.wav', 'Kicks/Kick 10.wav', 'Kicks/Hard/Kick 3.wav', 'Snares/Snare.wav', 'loose.wav'].entries()) put(samples, `Pier/${path}`, waveOf(100 + i))
  server = await startServer({ data, roots: [samples] })
  await server.ended(await server.api<JobView>('/api/sources', { method: 'POST', body: { path: join(samples, 'Pier') } }))
  source = (await server.api<SourceView[]>('/api/sources'))[0]!
})
afterAll(() => server.stop())

const folders = (query = '') => server.api<FolderCount[]>(`/api/sounds/folders?${query}`)

describe('folders of the library', () => {
  it('are counted level by level, for what is searched; the scope is left aside', async () => {
    expect(await folders()).toEqual([{ sourceId: source.id, path: '', count: 5, hasMore: true }])
    expect((await folders(`under=${source.id}`)).map(({ path, count, hasMore }) => [path, count, hasMore])).toEqual([['Kicks', 3, true], ['Snares', 1, false]])
    expect((await folders(`under=${source.id}/Kicks&folder=Snares&source=${source.id}`)).map(({ path }) => path)).toEqual(['Kicks/Hard'])
    expect((await folders(`q=snare&under=${source.id}`)).map(({ path, count }) => [path, count])).toEqual([['Snares', 1]])
    await expect(folders('under=none')).rejects.toThrow(/names no folder/)
  })

  it('are marked as favourites, each once, and forgotten with their source', async () => {
    const mark = (path: string, favourite: boolean, sourceId = source.id) => server.api('/api/folders', { method: 'PUT', body: { sourceId, path, favourite } })
    await Promise.all([mark('Kicks', true), mark('Kicks', true), mark('', true)])
    const list = () => server.api<FavouriteFolder[]>('/api/folders')
    expect(await list()).toEqual([{ sourceId: source.id, path: '' }, { sourceId: source.id, path: 'Kicks' }])
    await mark('', false)
    expect(await list()).toEqual([{ sourceId: source.id, path: 'Kicks' }])
    await expect(mark('x', true, 9999)).rejects.toThrow(/was removed/)
  })

  it('show their audio files before they are brought in, which are heard by their paths within the roots alone', async () => {
    const { files, audioFiles } = await server.api<BrowsedFolder>(`/api/browse?path=${encodeURIComponent(join(samples, 'Pier/Kicks'))}`)
    expect([files.map(({ name }) => name), audioFiles]).toEqual([['Kick 2.wav', 'Kick 10.wav'], 2])
    const hear = (path: string) => fetch(`${server.url}/api/browse-audio?path=${encodeURIComponent(path)}`)
    expect(Buffer.from(await (await hear(files[0]!.path)).arrayBuffer()).equals(readFileSync(files[0]!.path))).toBe(true)
    expect((await hear('/etc/passwd')).status).toBe(400)
    expect((await hear('/usr/share/x.wav')).ok).toBe(false)
  })

  it('give their sounds as files under their own names', async () => {
    const { rows } = await server.api<SearchPage>('/api/sounds?q=snare')
    const answer = await fetch(`${server.url}/api/audio/${rows[0]!.hash}?as=file`)
    expect(answer.headers.get('content-disposition')).toBe('attachment; filename*=UTF-8\'\'Snare.wav')
    expect(Buffer.from(await answer.arrayBuffer()).equals(readFileSync(join(samples, 'Pier/Snares/Snare.wav')))).toBe(true)
    const midi = await fetch(`${server.url}/api/patterns/shipped-gangway/midi`)
    expect([midi.headers.get('content-type'), Buffer.from(await midi.arrayBuffer()).subarray(0, 4).toString('latin1')]).toEqual(['audio/midi', 'MThd'])
  })
})
