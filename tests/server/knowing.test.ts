import { spawnSync } from 'node:child_process'
import { cpSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { resample } from '../../core/audio/resample'
import { writeWave } from '../../core/audio/wave/write'
import { Random } from '../../demo/synth/dsp'
import { kick, snare, tom } from '../../demo/synth/drums'
import type { CompareResult, JobView, ScanResult } from '../../contract/jobs'
import type { Duplicates, KindByLength, NearGroups, SoundDetail, SoundRow } from '../../contract/library'
import type { MarkAnswer } from '../../contract/marks'
import type { Family, Listed, ListRead, RuleView, SourceView } from '../../contract/sources'
import { freshFolder, put, waveOf } from '../helpers/folder'
import { startServer, type RunningServer } from '../helpers/server'

// The real built server, a real database, real files.
let server: RunningServer
let samples: string
const wave = (hit: Float32Array, rate = 48_000, depth: 16 | 24 = 24) => writeWave([hit], rate, { depth })

beforeAll(async () => {
  samples = freshFolder()
  for (let i = 1; i <= 4; i++) {
    put(samples, `Pack/Low/0${i}.wav`, wave(tom(80, 110)(new Random(i), 0.7)))
    put(samples, `Pack/Snares/Snare_rr${i}.wav`, wave(snare(new Random(i), 0.7)))
  }
  const one = kick(false)(new Random(3), 0.8)
  put(samples, 'Pack/Kicks/Kick.wav', wave(one))
  put(samples, 'Other/copy.wav', wave(one))
  put(samples, 'Other/sixteen bit.wav', wave(one, 48_000, 16))
  put(samples, 'Other/quiet, low rate, cut.wav', wave(resample([one.slice(0, 12_000).map(value => value * 0.3)], 48_000, 44_100)[0]!, 44_100))
  const layered = kick(true)(new Random(9), 0.8)
  put(samples, 'Other/Boom_v1.wav', wave(layered.map(value => value * 0.4)))
  put(samples, 'Other/Boom_v2.wav', wave(layered))
  server = await startServer({ data: freshFolder(), roots: [samples] })
  for (const name of ['Pack', 'Other']) await bringIn(name)
})
afterAll(() => server.stop())

async function done<T>(begun: JobView): Promise<T> {
  const ended = await server.ended(begun)
  if (ended.state !== 'done') throw new Error(ended.error ?? ended.state)
  return ended.result as T
}
const bringIn = async (name: string) => done<ScanResult>(await server.api<JobView>('/api/sources', { method: 'POST', body: { path: join(samples, name) } }))
const rows = async (query = '') => (await server.api<{ rows: SoundRow[] }>(`/api/sounds?q=${encodeURIComponent(query)}`)).rows
const detail = async (query: string) => server.api<SoundDetail>(`/api/sounds/${(await rows(query))[0]!.hash}`)
const sourceOf = async (name: string) => (await server.api<SourceView[]>('/api/sources')).find(source => source.name === name)!
const post = <T>(path: string, body?: unknown) => server.api<T>(path, { method: 'POST', body })
/** Waits until no job waits or runs. */
async function quiet(): Promise<void> {
  for (const job of await server.api<JobView[]>('/api/jobs')) await server.ended(job)
}

describe('witnesses', () => {
  it('stand apart: the name, the file\'s tags, the audio; and a name with nothing to say leaves it to the audio', async () => {
    const { kindBy, kind } = await detail('low 03')
    expect(kindBy.name).toBeNull()
    expect(kindBy.file).toBeNull()
    expect(kindBy.audio).toMatchObject({ path: kind, evidence: expect.stringContaining('how it sounds') })
  })

  it('strokes of one instrument are known by their names', async () => {
    const { id, strokes } = await detail('snare rr2')
    expect(strokes).toBe(4)
    expect((await rows(`family=${id}`)).map(row => `${row.folder}/${row.name}`).sort()).toEqual([1, 2, 3, 4].map(i => `Pack/Snares/Snare_rr${i}`))
    expect((await detail('snare rr2')).named).toMatchObject({ take: 2, family: 'snares/snare' })
    expect(await server.api(`/api/sources/${(await sourceOf('Pack')).id}/families`)).toEqual({ total: 1, shown: [expect.objectContaining({ files: 4 })] })
  })
})

describe('set by hand', () => {
  it('kind, tags, favourite and note of many sounds at once; found by tag; taken back and done again', async () => {
    const ids = (await rows('snare')).map(row => row.id)
    expect(await post<MarkAnswer>('/api/marks', { ids, kind: 'rim', addTags: ['deck', 'bright'], favourite: true, note: 'from the aft deck' })).toMatchObject({ edit: { count: 4 } })
    expect(await rows('deck bright kind=rim is=favourite')).toHaveLength(4)
    expect(await rows('aft')).toHaveLength(4)
    await post('/api/marks/undo')
    expect(await rows('is=favourite')).toHaveLength(0)
    expect((await rows('snare')).every(row => row.kind === 'snare' && row.tags.length === 0)).toBe(true)
    await post('/api/marks/redo')
    expect(await rows('deck kind=rim is=favourite')).toHaveLength(4)
    expect(await post('/api/marks/redo')).toEqual({ nothing: 'There is nothing to do again.' })
  })

  it('stays through a scan of changed files, and moves with the audio to another name', async () => {
    renameSync(join(samples, 'Pack/Snares/Snare_rr1.wav'), join(samples, 'Pack/Snares/renamed.wav'))
    await bringIn('Pack')
    expect(await rows('renamed')).toEqual([expect.objectContaining({ kind: 'rim', tags: ['deck', 'bright'], favourite: true })])
    expect(await sourceOf('Pack')).toMatchObject({ files: 9, missing: 0 })
    renameSync(join(samples, 'Pack/Snares/renamed.wav'), join(samples, 'Pack/Snares/Snare_rr1.wav'))
    await bringIn('Pack')
  })

  it('refuses kinds that are not in the tree and sounds by the hundred thousand, and changes nothing', async () => {
    await expect(post('/api/marks', { ids: [1], kind: 'gamelan' })).rejects.toThrow('not in the tree')
    await expect(post('/api/marks', { ids: Array.from({ length: 500_001 }, (_, i) => i + 1), favourite: true })).rejects.toThrow()
  })
})

describe('rules of folders', () => {
  it('hold now and for later scans, give way to a single hand-set kind, and go without a trace', async () => {
    const { id } = await sourceOf('Pack')
    await done(await post<JobView>(`/api/sources/${id}/rules`, { folder: 'Low', kind: 'wood.block', tags: ['bench'] }))
    expect(await rows('bench kind=wood.block')).toHaveLength(4)
    await post('/api/marks', { ids: [(await rows('low 02'))[0]!.id], kind: 'tom.low' })
    expect(await rows('bench kind=wood.block')).toHaveLength(3)
    put(samples, 'Pack/Low/new one.wav', wave(tom(80, 110)(new Random(77), 0.7)))
    await bringIn('Pack')
    expect(await rows('new one')).toEqual([expect.objectContaining({ kind: 'wood.block', tags: ['bench'] })])
    const { rules } = await server.api<{ rules: RuleView[] }>(`/api/sources/${id}/rules`)
    expect(rules).toEqual([expect.objectContaining({ folder: 'Low', files: 5 })])
    await done(await server.api<JobView>(`/api/sources/${id}/rules/${rules[0]!.id}`, { method: 'DELETE' }))
    expect(await rows('bench')).toHaveLength(0)
    expect(await rows('kind=wood.block')).toHaveLength(0)
    expect((await rows('low 02'))[0]!.kind).toBe('tom.low')
  })
})

describe('the list as CSV', () => {
  const saved = async (id: number) => (await fetch(`${server.url}/api/sources/${id}/list`)).text()

  it('comes back unchanged and changes nothing; what is written into it is set by hand in one step', async () => {
    const { id } = await sourceOf('Pack')
    const list = await saved(id)
    expect(list.split('\r\n')[0]).toBe('path,kind,tags,favourite,note,"Length, s","Length heard, s","Loudness, LUFS","True peak, dBTP",Bright,Pitch,"Tempo, BPM","Rate, kHz","Depth, bit",Channels')
    const line = list.split('\r\n').find(row => row.startsWith('Snares/Snare_rr2.wav,'))!
    expect(line).toMatch(/^Snares\/Snare_rr2\.wav,rim,deck; bright,yes,from the aft deck,/)
    const [sound] = await rows('Snare_rr2')
    const figures = line.split(',').slice(5).map(Number)
    ;[sound!.lengthSeconds, sound!.effectiveSeconds!, sound!.hitLufs!].forEach((value, i) => expect(figures[i]).toBeCloseTo(value, 4))
    expect([figures[7], figures[9]]).toEqual([sound!.sampleRate / 1000, sound!.channels])
    expect(await post<ListRead>(`/api/sources/${id}/list`, { text: list })).toMatchObject({ rows: 10, changed: 0, unknownPaths: 0 })
    const kicks = 'path;kind;tags\nKicks\\Kick.wav;Triangle;"odd"\nnowhere.wav;kick;\nLow/01.wav;drumkin;x\n'
    expect(await post<ListRead>(`/api/sources/${id}/list`, { text: kicks })).toEqual({ rows: 3, changed: 2, unknownPaths: 1, firstUnknown: ['nowhere.wav'], unknownKinds: ['drumkin'] })
    expect(await rows('kind=metal.triangle odd')).toHaveLength(1)
    await post('/api/marks/undo')
    expect(await saved(id)).toBe(list)
  })

  it('a text that is no list is refused', async () => {
    await expect(post(`/api/sources/${(await sourceOf('Pack')).id}/list`, { text: 'a,b\n1,2\n' })).rejects.toThrow('names no column "path"')
  })
})

describe('what lies there twice', () => {
  it('identical files are kept apart from the same audio in another container, with the bytes that they waste', async () => {
    const found = await server.api<Duplicates>('/api/library/duplicates')
    const size = readFileSync(join(samples, 'Other/copy.wav')).length
    expect(found).toMatchObject({ groups: 1, files: 2, wastedBytes: size })
    expect(found.shown[0]).toMatchObject({ identical: [[join(samples, 'Other/copy.wav'), join(samples, 'Pack/Kicks/Kick.wav')]] })
  })

  it('the same recording at another level, rate, depth and length is found by its waveform, and no other pair', async () => {
    const result = await done<CompareResult>(await post<JobView>('/api/library/compare'))
    expect(result.found).toBe(4)
    const near = await server.api<NearGroups>('/api/library/near')
    expect(near).toMatchObject({ others: 1, strokes: 1, shown: [{ total: 3 }] })
    expect(near.shown[0]!.sounds.map(sound => sound.name).sort()).toEqual(['Kick', 'quiet, low rate, cut', 'sixteen bit'])
    // 20 log10(0.3) = -10.5 dB.
    expect((await detail('Kick')).near.shown.find(other => other.name.startsWith('quiet'))?.levelDb).toBeCloseTo(-10.5, 0)
    expect((await detail('quiet')).near.shown.find(other => other.name === 'Kick')?.levelDb).toBeCloseTo(10.5, 0)
    expect((await detail('sixteen')).near.total).toBe(2)
  })

  it('layers that were made of one recording are strokes of a family, shown when asked for; a condition finds a whole group', async () => {
    const near = await server.api<NearGroups>('/api/library/near?strokes=true')
    expect(near.shown.map(group => group.sounds.map(sound => sound.name).sort())).toContainEqual(['Boom_v1', 'Boom_v2'])
    expect((await server.api<NearGroups>('/api/library/near?strokes=true&limit=1&offset=1')).shown).toEqual([near.shown[1]])
    const [one] = near.shown.find(group => group.total === 3)!.sounds
    expect((await rows(`same=${one!.id}`)).map(row => row.name).sort()).toEqual(['Kick', 'quiet, low rate, cut', 'sixteen bit'])
  })

  it('a condition finds the strokes of one instrument, and a sound that is none alone', async () => {
    const { shown: families } = await server.api<Listed<Family>>(`/api/sources/${(await sourceOf('Other')).id}/families`)
    const boom = families.find(family => family.family.endsWith('boom'))!
    expect((await rows(`family=${boom.soundId}`)).map(row => row.name).sort()).toEqual(['Boom_v1', 'Boom_v2'])
    const [kick] = await rows('kick')
    expect((await rows(`family=${kick!.id}`)).map(row => row.id)).toEqual([kick!.id])
  })
})

describe('sources', () => {
  it('counts of kinds by length add up to the library', async () => {
    const kinds = await server.api<KindByLength[]>('/api/library/kinds')
    const sum = kinds.flatMap(entry => entry.counts).reduce((all, count) => all + count, 0)
    expect(sum).toBe((await server.api<{ total: number }>('/api/sounds')).total)
  })

  it('a source that moved is pointed to its new place; everything is found again, whatever it is called there', async () => {
    const { id } = await sourceOf('Pack')
    renameSync(join(samples, 'Pack'), join(samples, 'Moved'))
    renameSync(join(samples, 'Moved/Kicks/Kick.wav'), join(samples, 'Moved/Kicks/thud.wav'))
    await expect(server.api(`/api/sources/${id}`, { method: 'PATCH', body: { path: join(samples, 'Other') } })).rejects.toThrow('is the source "Other" already')
    await server.api(`/api/sources/${id}`, { method: 'PATCH', body: { path: join(samples, 'Moved'), name: 'Ferry' } })
    await quiet()
    expect(await sourceOf('Ferry')).toMatchObject({ path: join(samples, 'Moved'), files: 10, missing: 0 })
    expect(await rows('ferry deck is=favourite')).toHaveLength(4)
    expect((await rows('thud'))[0]).toMatchObject({ fileCount: 2 })
  })

  it('a folder within another source shares its sounds: each counts once', async () => {
    const before = (await server.api<{ total: number }>('/api/sounds')).total
    await bringIn('Moved/Snares')
    expect((await server.api<{ total: number }>('/api/sounds')).total).toBe(before)
    expect((await sourceOf('Snares')).overlaps).toEqual(['Ferry'])
    expect(await server.api<Duplicates>('/api/library/duplicates')).toMatchObject({ groups: 1 })
  })

  it('what appears in a watched folder is brought in by itself, not in a paused one', async () => {
    const { id } = await sourceOf('Other')
    await server.api(`/api/sources/${id}`, { method: 'PATCH', body: { paused: true } })
    put(samples, 'Other/unseen.wav', wave(snare(new Random(90), 0.5)))
    put(samples, 'Moved/Kicks/later.wav', wave(kick(true)(new Random(91), 0.5)))
    await expect.poll(() => rows('later'), { timeout: 60_000, interval: 300 }).toHaveLength(1)
    expect(await rows('unseen')).toHaveLength(0)
    await server.api(`/api/sources/${id}`, { method: 'PATCH', body: { paused: false } })
    await quiet()
    expect(await rows('unseen')).toHaveLength(1)
  })

  it('a source that was away is watched again after a scan that finds all as before', async () => {
    const { id, path } = await sourceOf('Ferry')
    // With times to the nanosecond, and as other files than those that were watched.
    expect(spawnSync('cp', ['-a', path, `${path} elsewhere`]).status).toBe(0)
    rmSync(path, { recursive: true })
    expect((await server.ended(await post<JobView>(`/api/sources/${id}/scan`))).state).toBe('failed')
    renameSync(`${path} elsewhere`, path)
    await quiet()
    expect(await done<ScanResult>(await post<JobView>(`/api/sources/${id}/scan`))).toMatchObject({ read: 0, missing: 0, back: 0 })
    put(path, 'Kicks/after all.wav', wave(kick(true)(new Random(92), 0.5)))
    await expect.poll(() => rows('after all'), { timeout: 60_000, interval: 300 }).toHaveLength(1)
  })

  it('what is missing for good is listed no more; what was set of it is there again when it comes back', async () => {
    put(samples, 'Quarry/stays.wav', waveOf(410))
    put(samples, 'Quarry/goes.wav', waveOf(411))
    await done<ScanResult>(await post<JobView>('/api/sources', { path: join(samples, 'Quarry') }))
    const [row] = await rows('goes')
    await post('/api/marks', { ids: [row!.id], addTags: ['quarried'] })
    rmSync(join(samples, 'Quarry/goes.wav'))
    const { id } = await sourceOf('Quarry')
    const scan = async () => done<ScanResult>(await post<JobView>(`/api/sources/${id}/scan`))
    await quiet()
    await scan()
    expect(await sourceOf('Quarry')).toMatchObject({ files: 1, missing: 1 })
    expect(await (await fetch(`${server.url}/api/sources/${id}/missing.txt`)).text()).toBe('goes.wav\n')

    expect(await server.api(`/api/sources/${id}/missing`, { method: 'DELETE' })).toEqual({ forgotten: 1 })
    expect(await sourceOf('Quarry')).toMatchObject({ files: 1, missing: 0 })
    expect(await rows('goes')).toHaveLength(0)
    put(samples, 'Quarry/back.wav', waveOf(411))
    await scan()
    expect((await rows('back'))[0]).toMatchObject({ id: row!.id, tags: ['quarried'] })
  })

  it('an archive on this machine is unpacked once, and stays where it is', async () => {
    mkdirSync(join(samples, 'zips'))
    expect(spawnSync('python3', ['-m', 'zipfile', '-c', join(samples, 'zips/Hold.zip'), join(samples, 'Other/copy.wav')]).status).toBe(0)
    const path = join(samples, 'zips/Hold.zip')
    await done(await post<JobView>('/api/sources', { path }))
    await quiet()
    expect(await sourceOf('Hold')).toMatchObject({ files: 1, uploaded: true })
    await done(await post<JobView>('/api/sources', { path }))
    await quiet()
    expect((await server.api<SourceView[]>('/api/sources')).filter(source => source.name === 'Hold')).toHaveLength(1)
    expect(readFileSync(path).length).toBeGreaterThan(0)
  })

  it('two scans of one source at once are one', async () => {
    const { id } = await sourceOf('Ferry')
    const [one, two] = await Promise.all([post<JobView>(`/api/sources/${id}/scan`), post<JobView>(`/api/sources/${id}/scan`)])
    expect(one.id).toBe(two.id)
    await quiet()
  })

  it('removed and brought in again, a source has its tags again, unless they were to be forgotten', async () => {
    await server.api(`/api/sources/${(await sourceOf('Snares')).id}`, { method: 'DELETE' })
    await server.api(`/api/sources/${(await sourceOf('Ferry')).id}`, { method: 'DELETE' })
    expect(await rows('deck')).toHaveLength(0)
    await bringIn('Moved')
    expect(await rows('deck is=favourite')).toHaveLength(4)
    await server.api(`/api/sources/${(await sourceOf('Moved')).id}?forget=yes`, { method: 'DELETE' })
    await bringIn('Moved')
    expect(await rows('is=favourite')).toHaveLength(0)
    expect((await rows('snare rr3'))[0]).toMatchObject({ kind: 'snare', tags: [] })
  })

  it('files that could not be read are listed as text', async () => {
    put(samples, 'Other/broken.wav', 'RIFF')
    cpSync(join(samples, 'Other/copy.wav'), join(samples, 'Other/copy two.wav'))
    writeFileSync(join(samples, 'Other/empty.flac'), '')
    await bringIn('Other')
    const text = await (await fetch(`${server.url}/api/sources/${(await sourceOf('Other')).id}/unreadable.txt`)).text()
    expect(text.trim().split('\n').map(line => line.split('\t')[0])).toEqual(['broken.wav', 'empty.flac'])
    rmSync(join(samples, 'Other/broken.wav'))
  })

  it('paths that are longer than is kept are reported, even where what is shown of them is the same, and the rest is read', async () => {
    const deep = (middle: string) => `Deep/${'a'.repeat(200)}/${middle.repeat(100)}/${'b'.repeat(200)}/${'c'.repeat(200)}`
    for (const middle of ['1', '2']) put(samples, `${deep(middle)}/Kick.wav`, waveOf(100))
    put(samples, 'Deep/Kick fine.wav', waveOf(237))
    await bringIn('Deep')
    const text = await (await fetch(`${server.url}/api/sources/${(await sourceOf('Deep')).id}/unreadable.txt`)).text()
    expect(text.trim().split('\n')).toEqual([expect.stringMatching(/^a+ \.\.\. .*Kick\.wav\t.*up to 640/)])
    expect((await server.api<{ rows: SoundRow[] }>('/api/sounds?q=fine')).rows.map(row => row.name)).toContain('Kick fine')
    rmSync(join(samples, 'Deep'), { recursive: true })
  })
})
