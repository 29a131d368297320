import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { resample } from '../../core/audio/resample'
import { writeWave } from '../../core/audio/wave/write'
import { Random } from '../../demo/synth/dsp'
import { kick, snare, tom } from '../../demo/synth/drums'
import type { Facets } from '../../core/search/catalogue/facets'
import type { Hidden } from '../../core/search/catalogue/find'
import type { JobView } from '../../contract/jobs'
import type { Copied, TrayChange, TrayItem, TrayView } from '../../contract/tray'
import type { SavedSearchView } from '../../contract/searches'
import type { MarkAnswer } from '../../contract/marks'
import type { SearchPage } from '../../contract/library'
import { freshFolder, put } from '../helpers/folder'
import { startServer, type RunningServer } from '../helpers/server'

// The real built server, a real database, real files.
const RATE = 44_100
let server: RunningServer
let samples: string
let data: string

const wave = (hit: Float32Array, rate = RATE) => writeWave([hit], rate, { depth: 24 })
const find = (q: string, more = '') => server.api<SearchPage>(`/api/sounds?q=${encodeURIComponent(q)}${more}`)
const names = async (q: string, more = '') => (await find(q, more)).rows.map(row => row.name)
const facets = (q: string) => server.api<{ facets: Facets, hidden: Hidden }>(`/api/sounds/facets?q=${encodeURIComponent(q)}`)
const post = <T>(path: string, body: unknown, method = 'POST') => server.api<T>(path, { method, body })

beforeAll(async () => {
  samples = freshFolder()
  data = freshFolder()
  for (let i = 1; i <= 12; i++) {
    put(samples, `Ferry/Kicks/Deep Kick ${i}.wav`, wave(kick(false)(new Random(i), 0.8)))
    put(samples, `Ferry/Snares/Snare ${i}.wav`, wave(snare(new Random(100 + i), 0.8)))
    put(samples, `Ferry/Toms/Tom ${i}.wav`, wave(tom(70 + 9 * i, 110)(new Random(200 + i), 0.8)))
  }
  for (const [kind, make] of [['Kick', kick(false)], ['Snare', snare]] as const) {
    const hit = make(new Random(kind === 'Kick' ? 5 : 105), 0.8)
    put(samples, `Ferry/Copies/${kind} quiet.wav`, wave(hit.map(value => value * 0.25)))
    put(samples, `Ferry/Copies/${kind} at another rate.wav`, wave(resample([hit], RATE, 48_000)[0]!, 48_000))
    put(samples, `Ferry/Copies/${kind} cut.wav`, wave(hit.slice(0, Math.round(hit.length * 0.7))))
  }
  server = await startServer({ data, roots: [samples] })
  const job = await server.ended(await post<JobView>('/api/sources', { path: join(samples, 'Ferry') }))
  expect(job.state).toBe('done')
})
afterAll(() => server.stop())

describe('what is like a sound', () => {
  it.each([['Kick', '"deep kick 5"'], ['Snare', '"snare 5"']])('its copies at another level, rate and length are nearest: %s', async (kind, query) => {
    const { id } = (await find(query)).rows[0]!
    const { rows } = await find(`like=${id}`)
    expect(rows[0]).toMatchObject({ id, nearness: { whole: 1, length: 1, colour: 1, pitch: 1 } })
    expect(rows.slice(1, 4).map(row => row.name).sort()).toEqual([`${kind} at another rate`, `${kind} cut`, `${kind} quiet`])
    expect(rows.every((row, i) => i === 0 || row.nearness!.whole <= rows[i - 1]!.nearness!.whole)).toBe(true)
  })

  it('stays within the other conditions', async () => {
    const { id } = (await find('"deep kick 5"')).rows[0]!
    const { rows } = await find(`like=${id} in=snares`)
    expect(rows).toHaveLength(12)
    expect(rows.every(row => row.folder.endsWith('Snares'))).toBe(true)
  })

  it('takes a file that is not in the library, and refuses what is no sound', async () => {
    const drop = async (bytes: Uint8Array) => (await fetch(`${server.url}/api/sounds/drop`, { method: 'POST', body: Buffer.from(bytes) })).json() as Promise<{ like?: string, message?: string }>
    const { like } = await drop(wave(kick(false)(new Random(5), 0.8).map(value => value * 0.5)))
    expect((await names(`like=${like}`))[0]).toMatch(/Deep Kick 5|Kick quiet/)
    expect((await drop(Buffer.from('no sound'))).message).toContain('no audio')
    expect((await drop(wave(new Float32Array(4000)))).message).toContain('silence')
    await expect(find('like=drop-999')).rejects.toThrow('drop the file again')
    await expect(find('like=999999')).rejects.toThrow('has no measurements')
  })
})

describe('a search over HTTP', () => {
  it('finds exactly what a plain filter of the file names finds', async () => {
    const files = readdirSync(join(samples, 'Ferry'), { recursive: true, withFileTypes: true }).filter(entry => entry.isFile()).map(entry => join(entry.parentPath, entry.name).slice(join(samples, 'Ferry').length + 1))
    for (const words of [['deep'], ['tom', '1'], ['quiet'], ['kick', 'cut'], ['snares', '12']]) {
      const wanted = files.filter(path => words.every(word => path.toLowerCase().split(/[^a-z0-9]+/).some(part => part.startsWith(word)))).length
      expect((await find(words.join(' '))).counts.words, words.join(' ')).toBe(wanted)
    }
  })

  it('sorts by any figure, either way', async () => {
    const by = async (sort: string, descending: boolean) => (await find('in=toms', `&sort=${sort}&descending=${descending}`)).rows
    const notes = (await by('note', false)).map(row => row.pitchNote!)
    expect(notes).toEqual([...notes].sort((a, b) => a - b))
    const loud = (await by('loudness', true)).map(row => row.hitLufs!)
    expect(loud).toEqual([...loud].sort((a, b) => b - a))
    expect((await by('name', false))[0]!.name).toBe('Tom 1')
    expect((await by('name', true))[0]!.name).toBe('Tom 12')
  })

  it('looks in a source or folder alone, and counts what lies elsewhere', async () => {
    const [source] = await server.api<{ id: number }[]>('/api/sources')
    const scope = `&source=${source!.id}&folder=${encodeURIComponent('Kicks')}`
    expect((await find('', scope)).total).toBe(12)
    const { hidden } = await server.api<{ hidden: Hidden }>(`/api/sounds/facets?q=kick${scope}`)
    expect(hidden.elsewhere).toBe((await find('kick')).total - (await find('kick', scope)).total)
    await expect(find('', '&sorce=1')).rejects.toThrow('not understood')
  })

  it('points at what it does not understand', async () => {
    await expect(find('kick colour=red')).rejects.toThrow('There is no condition "colour"')
    await expect(find(`${'('.repeat(60)}kick${')'.repeat(40)}`)).rejects.toThrow('deep')
  })

  it('counts facets, and what each would leave', async () => {
    const { facets: all } = await facets('in=snares or in=kicks')
    expect(all.kinds.find(kind => kind.name === 'kick')!.count).toBeGreaterThan(10)
    // Its folders are called after what lies in them, so that the source is the pack.
    expect(all.packs).toContainEqual({ name: 'Ferry', count: 24 })
    expect(all.grid.flat().reduce((sum, count) => sum + count, 0)).toBe(24)
    const { facets: kicks } = await facets('kind=kick')
    expect(kicks.kinds.length).toBeGreaterThan(1)
  })
})

describe('sounds set aside', () => {
  it('are left out, counted, found when asked for, and come back by undo', async () => {
    const all = (await find('')).total
    const ids = (await find('"deep kick"')).rows.map(row => row.id)
    expect(await post<MarkAnswer>('/api/marks', { ids, aside: true })).toMatchObject({ edit: { count: 12, title: 'set aside' } })
    expect((await find('')).total).toBe(all - 12)
    expect((await facets('deep')).hidden.aside).toBe(12)
    expect(await names('is=aside deep')).toHaveLength(12)
    await post('/api/marks/undo', {})
    expect((await find('')).total).toBe(all)
  })

  it('thousands are set by a job, as one step that is taken back as one', async () => {
    const ids = (await find('')).rows.map(row => row.id)
    const many = Array.from({ length: 2000 }, (_, i) => ids[i % ids.length]! + Math.floor(i / ids.length) * 100_000)
    const answer = await post<MarkAnswer>('/api/marks', { ids: many, addTags: ['whole ferry'], favourite: true })
    if (!('job' in answer)) throw new Error('It was done at once.')
    expect(await server.ended(answer.job)).toMatchObject({ state: 'done', result: { count: ids.length } })
    expect((await find('tag="whole ferry" is=favourite')).total).toBe(ids.length)
    await post('/api/marks/undo', {})
    expect((await find('tag="whole ferry"')).total).toBe(0)
    expect((await find('is=favourite')).total).toBe(0)
  })
})

describe('kept searches', () => {
  it('count what they find now, and one of a name replaces the other', async () => {
    await post('/api/searches', { name: 'Deep', search: { q: 'deep', sort: 'name' } })
    await post('/api/searches', { name: 'Deep', search: { q: 'deep kick 1', sort: 'loudness', descending: true } })
    const listed = await server.api<SavedSearchView[]>('/api/searches')
    expect(listed).toEqual([expect.objectContaining({ name: 'Deep', search: { q: 'deep kick 1', sort: 'loudness', descending: true }, count: (await find('deep kick 1')).total })])
    await server.api(`/api/searches/${listed[0]!.id}`, { method: 'DELETE' })
    expect(await server.api('/api/searches')).toEqual([])
  })
})

describe('trays', () => {
  const trays = () => server.api<TrayView[]>('/api/trays')
  const items = (id: number) => server.api<TrayItem[]>(`/api/trays/${id}`)
  const change = (id: number, wanted: TrayChange) => post(`/api/trays/${id}/sounds`, { change: wanted, from: 'test' }, 'PATCH')

  it('keep what was put on them elsewhere, whatever is moved, noted or taken off', async () => {
    const { id } = await post<TrayView>('/api/trays', { name: 'For the break' })
    const hashes = (await find('')).rows.slice(0, 6).map(row => row.hash)
    const order = async () => (await items(id)).map(item => hashes.indexOf(item.row.hash))
    await post(`/api/trays/${id}/sounds`, { hashes: hashes.slice(0, 4), from: 'one tab' })
    await post(`/api/trays/${id}/sounds`, { hashes: hashes.slice(4), from: 'another tab' })
    await change(id, { type: 'move', hash: hashes[0]!, before: hashes[3]! })
    expect(await order()).toEqual([1, 2, 0, 3, 4, 5])
    await change(id, { type: 'move', hash: hashes[4]!, before: hashes[1]! })
    expect(await order()).toEqual([4, 1, 2, 0, 3, 5])
    await change(id, { type: 'move', hash: hashes[1]!, before: null })
    expect(await order()).toEqual([4, 2, 0, 3, 5, 1])
    await change(id, { type: 'remove', hashes: [hashes[2]!, hashes[5]!] })
    // What is no longer there is neither moved nor a place to move to.
    await change(id, { type: 'move', hash: hashes[2]!, before: null })
    await change(id, { type: 'move', hash: hashes[3]!, before: hashes[5]! })
    await change(id, { type: 'move', hash: hashes[3]!, before: hashes[3]! })
    await change(id, { type: 'note', hash: hashes[2]!, note: 'gone' })
    expect(await order()).toEqual([4, 0, 3, 1])
    await post(`/api/trays/${id}/sounds`, { hashes: [hashes[2]!], from: 'one tab' })
    expect((await items(id)).at(-1)).toMatchObject({ row: { hash: hashes[2] }, note: '' })
    await server.api(`/api/trays/${id}`, { method: 'DELETE' })
  })

  it('there is always one; others are made, named and taken away; each keeps its order and notes', async () => {
    const [first] = await trays()
    const hashes = (await find('in=toms')).rows.slice(0, 3).map(row => row.hash)
    const made = await post<TrayView>('/api/trays', { name: 'For the bridge' })
    await post(`/api/trays/${made.id}/sounds`, { hashes: [...hashes, hashes[0]], from: 'test' })
    await change(made.id, { type: 'move', hash: hashes[2]!, before: hashes[0]! })
    await change(made.id, { type: 'note', hash: hashes[2]!, note: 'the low one' })
    expect((await items(made.id)).map(item => [item.row.hash, item.note])).toEqual([[hashes[2], 'the low one'], [hashes[0], ''], [hashes[1], '']])
    expect(await items(first!.id)).toEqual([])
    await server.api(`/api/trays/${made.id}`, { method: 'PATCH', body: { name: 'Bridge' } })
    expect(await trays()).toContainEqual({ id: made.id, name: 'Bridge', count: 3 })
    const text = await (await fetch(`${server.url}/api/trays/${made.id}/list.txt`)).text()
    expect(text).toMatch(/^Bridge: 3 sounds \(3 tom\)\n\n {2}1\tTom/)
    expect(text).toContain('the low one')

    const target = put(samples, 'Copies/keep.txt', 'mine').replace('/keep.txt', '')
    put(samples, 'Copies/002 Tom 1.wav', 'mine too')
    const job = await server.ended(await post<JobView>(`/api/trays/${made.id}/copies`, { path: target }))
    expect(job.result as Copied).toMatchObject({ copied: 3, missing: [] })
    expect(readdirSync(target).sort()).toEqual(['001 Tom 3.wav', '002 Tom 1 (2).wav', '002 Tom 1.wav', '003 Tom 2.wav', 'keep.txt'])
    expect(readFileSync(join(target, '001 Tom 3.wav')).equals(readFileSync(join(samples, 'Ferry/Toms/Tom 3.wav')))).toBe(true)
    expect(readFileSync(join(target, '002 Tom 1.wav'), 'utf8')).toBe('mine too')
    // Two at once each bring all of it.
    const both = await Promise.all([1, 2].map(async () => server.ended(await post<JobView>(`/api/trays/${made.id}/copies`, { path: target }))))
    expect(both.map(({ result }) => (result as Copied).copied)).toEqual([3, 3])
    expect(readdirSync(target)).toHaveLength(5 + 6)
    await expect(post(`/api/trays/${made.id}/copies`, { path: join(samples, 'Ferry/Toms') })).rejects.toThrow('sources are never written to')
    await server.api(`/api/trays/${made.id}`, { method: 'DELETE' })
    await expect(post(`/api/trays/${made.id}/sounds`, { hashes, from: 'test' })).rejects.toThrow('was taken away')
    expect((await trays()).map(tray => tray.id)).toEqual([first!.id])
  })
})
