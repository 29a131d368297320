import { spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { WaveFile } from 'wavefile'
import { writeWave } from '../../core/audio/wave/write'
import { differenceOf } from '../../core/document/difference'
import { emptyPattern, type Pattern } from '../../core/groove/document'
import { addHits, addPart, setPattern } from '../../core/groove/edits'
import type { Kit } from '../../core/kit/document'
import type { Bounced, BounceSpec } from '../../contract/bounce'
import type { JobView } from '../../contract/jobs'
import type { KitView } from '../../contract/kits'
import type { PatternRow, PatternView } from '../../contract/patterns'
import { sine } from '../helpers/audio'
import { drumKit } from '../helpers/drumKit'
import { freshFolder } from '../helpers/folder'
import { startServer, type RunningServer } from '../helpers/server'

let server: RunningServer
let data: string
let kit: Kit
/** One short decaying tone of each kind. */
function writeSamples(folder: string): void {
  mkdirSync(folder)
  for (const [i, name] of ['Kick 01', 'Snare 01', 'Closed Hat 01', 'Clap 01'].entries()) {
    const tone = sine(70 * 4 ** i, 44_100, 22_050, 0.5).map((value, t) => value * Math.exp(-t / 5_000))
    writeFileSync(join(folder, `${name}.wav`), writeWave([tone], 44_100, { depth: 24 }))
  }
}

/** In dBTP, as ffmpeg's measuring after EBU R 128 (outside reference) reads it. */
function truePeakOf(path: string): number {
  const { stderr } = spawnSync('ffmpeg', ['-hide_banner', '-nostats', '-i', path, '-af', 'ebur128=peak=true', '-f', 'null', '-'], { encoding: 'utf8' })
  return Number(/True peak:\s+Peak:\s+(-?[\d.]+|-inf) dBFS/.exec(stderr)?.[1])
}

beforeAll(async () => {
  data = freshFolder()
  const samples = join(data, 'samples')
  writeSamples(samples)
  server = await startServer({ data, roots: [data] })
  await server.ended(await server.api<JobView>('/api/sources', { method: 'POST', body: { path: samples } }))
  kit = (await drumKit(server.api, 'Quay', ['kick', 'snare', 'hat.closed', 'clap'])).kit
})
afterAll(() => server.stop())

const spec = (pattern: Pattern, change: Partial<BounceSpec> = {}): BounceSpec => ({
  kits: [kit], heard: 'as heard', pattern, way: 'kind', byHand: {}, fromBar: 0, toBar: pattern.bars, passes: 1, tail: 'without', depth: 24, sampleRate: 48_000, what: 'mix', withMix: false, name: ['number', 'name'], ...change,
})
const bounce = async (asked: BounceSpec, folder: string | null) => server.ended(await server.api<JobView>('/api/bounce', { method: 'POST', body: { spec: asked, folder } }))
const shipped = async (id: string) => (await server.api<PatternView>(`/api/patterns/${id}`)).pattern

/** Left and right of a WAVE file, full scale at +-1, read by a library of its own. */
function readWave(path: string): { rate: number, channels: Float64Array[] } {
  const file = new WaveFile(readFileSync(path))
  const { sampleRate, bitsPerSample, audioFormat } = file.fmt as { sampleRate: number, bitsPerSample: number, audioFormat: number }
  const scale = audioFormat === 3 ? 1 : 2 ** (bitsPerSample - 1)
  return { rate: sampleRate, channels: (file.getSamples(false) as unknown as Float64Array[]).map(channel => Float64Array.from(channel, value => value / scale)) }
}
const peak = (channel: Float64Array) => channel.reduce((most, value) => Math.max(most, Math.abs(value)), 0)

describe('the library of patterns', () => {
  it('has the shipped ones from the first start, and they stay as they are', async () => {
    const rows = await server.api<PatternRow[]>('/api/patterns')
    expect(rows.filter(row => row.isShipped).length).toBeGreaterThanOrEqual(40)
    const pattern = await shipped('shipped-gangway')
    const difference = differenceOf(pattern, setPattern(pattern, { tempoBpm: 60 }))
    await expect(server.api('/api/patterns/shipped-gangway', { method: 'PUT', body: { difference, baseRevision: 1, from: 't' } })).rejects.toThrow(/came with Emporion/)
    await expect(server.api('/api/patterns/shipped-gangway', { method: 'DELETE' })).rejects.toThrow(/came with Emporion/)
    await server.api('/api/patterns/shipped-gangway', { method: 'PATCH', body: { favourite: true } })
    expect((await server.api<PatternRow[]>('/api/patterns')).find(row => row.id === 'shipped-gangway')).toMatchObject({ favourite: true, hits: 12, metre: { beats: 4, unit: 4 } })
  })

  it('saves edits that build on one another, tells of others, and keeps states', async () => {
    const made = await server.api<PatternView>('/api/patterns', { method: 'POST', body: { pattern: emptyPattern('Mine'), tags: ['try'] } })
    const first = addPart(made.pattern, { name: 'Kick', role: 'kick', note: 36 })
    const second = addHits(first, 'part-1', [{ tick: 0, velocity: 100, length: 10 }]).pattern
    const put = (difference: unknown, baseRevision: number) => server.api<{ revision: number }>(`/api/patterns/${made.id}`, { method: 'PUT', body: { difference, baseRevision, from: 't' } })
    expect(await put(differenceOf(made.pattern, first), 1)).toEqual({ revision: 2 })
    await server.api(`/api/patterns/${made.id}/revisions`, { method: 'POST' })
    expect(await put(differenceOf(first, second), 2)).toEqual({ revision: 3 })
    await expect(put(differenceOf(first, second), 2)).rejects.toThrow(/changed elsewhere/)
    await expect(put([{ at: ['parts', 7, 'name'], is: 'nobody' }], 3)).rejects.toThrow(/not there: parts \/ 7/)
    expect(await shipped(made.id)).toEqual(second)
    const kept = await server.api<{ number: number, pattern: Pattern }[]>(`/api/patterns/${made.id}/revisions`)
    expect(kept.map(({ number, pattern }) => [number, pattern.parts[0]!.hits.length])).toEqual([[2, 0]])
    await server.api(`/api/patterns/${made.id}`, { method: 'DELETE' })
    await expect(shipped(made.id)).rejects.toThrow(/no longer there/)
  })
})

describe('bounces', () => {
  it('a loop has the length of its bars, to the frame, and is heard', async () => {
    const folder = join(data, 'loops')
    mkdirSync(folder)
    const pattern = await shipped('shipped-gangway')
    for (const [depth, tail] of [[16, 'folded'], [24, 'without'], ['float', 'with']] as const) {
      const job = await bounce(spec(pattern, { depth, tail, passes: 2, name: ['pattern', 'tempo'] }), folder)
      expect(job.state, job.error ?? '').toBe('done')
      const { files: [file], loweredDb } = job.result as Bounced
      const { rate, channels: [left, right] } = readWave(join(folder, file!.name))
      // Two bars of four quarters at 96 beats a minute are five seconds.
      if (tail === 'with') expect(left!.length).toBeGreaterThanOrEqual(5 * rate)
      else expect(left!.length).toBe(5 * rate)
      expect(20 * Math.log10(Math.max(peak(left!), peak(right!)))).toBeCloseTo(file!.peakDb!, 1)
      expect(peak(left!)).toBeGreaterThan(0.01)
      expect(loweredDb).toBeLessThanOrEqual(0)
    }
    // Names that are taken get a number; what was there stays.
    expect(readdirSync(folder).sort()).toEqual(['Gangway 96 BPM 2.wav', 'Gangway 96 BPM 3.wav', 'Gangway 96 BPM.wav'])
  })

  it('stems lie in a folder of their own and sum to the mix', async () => {
    const folder = join(data, 'stems')
    mkdirSync(folder)
    const job = await bounce(spec(await shipped('shipped-boiler-room-door'), { what: 'pad', withMix: true, depth: 'float', tail: 'with' }), folder)
    const { files, folder: made, unheard } = job.result as Bounced
    expect(files.map(file => file.name.slice(0, 3))).toEqual(['01 ', '02 ', '03 ', '04 '].slice(0, files.length))
    const waves = files.map(file => readWave(join(made, file.name)).channels[0]!)
    const mix = waves.pop()!
    expect(new Set(waves.map(wave => wave.length))).toEqual(new Set([mix.length]))
    const difference = mix.map((value, i) => waves.reduce((sum, wave) => sum - wave[i]!, value))
    expect(20 * Math.log10(peak(difference))).toBeLessThan(-90)
    // The kit has no open hat: the closed one stands in for it, and nothing is lost unseen.
    expect(unheard).toBe(0)
  })

  it('a solo or mute that was left on is heard or not as asked for, and a file of digital silence is called that', async () => {
    const first = kit.pads.findIndex(pad => pad.role === 'clap')
    const left: Kit = { ...kit, pads: kit.pads.map((pad, index) => index === first ? { ...pad, soloed: true } : pad) }
    const pattern = await shipped('shipped-boiler-room-door')
    const made = async (heard: BounceSpec['heard']) => (await bounce(spec(pattern, { kits: [left], heard, what: 'pad', withMix: true, depth: 'float' }), null)).result as Bounced
    const [asHeard, all, plain] = [await made('as heard'), await made('all pads'), (await bounce(spec(pattern, { what: 'pad', withMix: true, depth: 'float' }), null)).result as Bounced]
    const silent = asHeard.files.filter(file => file.silent)
    expect(silent.length).toBeGreaterThan(0)
    expect(silent.every(file => file.peakDb === null)).toBe(true)
    for (const { name } of silent) expect(readWave(join(asHeard.folder, name)).channels.every(channel => channel.every(value => value === 0))).toBe(true)
    expect(all.files).toEqual(plain.files)
    expect(all.files.every(file => !file.silent && file.peakDb !== null)).toBe(true)
  })

  it('what would clip is lowered, all by as much, and said', async () => {
    const loud: Kit = { ...kit, gainDb: 24 }
    const folder = join(data, 'loud')
    mkdirSync(folder)
    const { result } = await bounce(spec(await shipped('shipped-gangway'), { kits: [loud] }), folder)
    const { files: [file], loweredDb } = result as Bounced
    expect(loweredDb).toBeLessThan(-3)
    expect(truePeakOf(join(folder, file!.name))).toBeCloseTo(-1, 0)
    expect(truePeakOf(join(folder, file!.name))).toBeLessThanOrEqual(-0.9)
    expect(peak(readWave(join(folder, file!.name)).channels[0]!)).toBeLessThan(1)
  })

  it('stems that are rendered on several cores are lowered as one, with their mix', async () => {
    const folder = join(data, 'loud stems')
    mkdirSync(folder)
    const { result } = await bounce(spec(await shipped('shipped-boiler-room-door'), { kits: [{ ...kit, gainDb: 18 }], what: 'pad', withMix: true, depth: 16 }), folder)
    const { files, folder: made, loweredDb } = result as Bounced
    expect(files.length).toBeGreaterThan(2)
    expect(loweredDb).toBeLessThan(-3)
    expect(Math.max(...files.map(file => truePeakOf(join(made, file.name))))).toBeCloseTo(-1, 0)
    const waves = files.map(file => readWave(join(made, file.name)).channels[0]!)
    const mix = waves.pop()!
    const difference = mix.map((value, i) => waves.reduce((sum, wave) => sum - wave[i]!, value))
    // Each file was dithered and rounded by itself: an error of 3/2 of the last bit at most in each.
    expect(peak(difference)).toBeLessThanOrEqual(files.length * 1.5 / 32_768)
  })

  it('one after the other and two at once are each whole, also after one that failed', async () => {
    const folder = join(data, 'many')
    mkdirSync(folder)
    const asked = spec(await shipped('shipped-gangway'), { name: ['pattern'] })
    const first = (await bounce(asked, folder)).result as Bounced
    expect((await bounce(spec(emptyPattern('Empty')), folder)).state).toBe('failed')
    const others = await Promise.all([1, 2, 3].map(async () => (await bounce(asked, folder)).result as Bounced))
    const read = ({ files: [file] }: Bounced) => readFileSync(join(folder, file!.name))
    for (const other of others) expect(read(other).equals(read(first))).toBe(true)
    expect(new Set([first, ...others].map(({ files: [file] }) => file!.name)).size).toBe(4)
  })

  it('whatever their level, they are lowered once and no more', async () => {
    const pattern = await shipped('shipped-gangway')
    for (const gainDb of [9.1, 11.3, 12.7, 15.9, 19.4, 23.6]) {
      const { state, result } = await bounce(spec(pattern, { kits: [{ ...kit, gainDb }] }), null)
      expect(state).toBe('done')
      const { loweredDb, files } = result as Bounced
      expect(loweredDb).toBeLessThanOrEqual(0)
      expect(files[0]!.peakDb).toBeLessThanOrEqual(-0.1 + 1e-9)
    }
  })

  it('for download they wait in the cache; several come as one archive', async () => {
    const { result } = await bounce(spec(await shipped('shipped-gangway'), { what: 'kind' }), null)
    const { download } = result as Bounced
    const answer = await fetch(`${server.url}/api/bounce/${download}`)
    expect(answer.headers.get('content-type')).toBe('application/zip')
    expect(Buffer.from(await answer.arrayBuffer()).subarray(0, 2).toString()).toBe('PK')
    const [stem] = (result as Bounced).files
    const single = await fetch(`${server.url}/api/bounce/${download}?file=${encodeURIComponent(stem!.name)}`)
    expect([single.headers.get('content-type'), (await single.arrayBuffer()).byteLength]).toEqual(['audio/wav', stem!.bytes])
    expect((await fetch(`${server.url}/api/bounce/${download}?file=../../x`)).status).toBe(404)
    await expect(server.api('/api/bounce/00000000-0000-4000-8000-000000000000')).rejects.toThrow(/no longer there/)
  })

  it('a pattern that no pad sounds is refused, and a cancelled or killed bounce leaves nothing', async () => {
    const folder = join(data, 'none')
    mkdirSync(folder)
    const empty = await bounce(spec(emptyPattern('Empty')), folder)
    expect(empty).toMatchObject({ state: 'failed' })
    expect(empty.error).toMatch(/No pad of "Quay" sounds/)
    const long = spec(await shipped('shipped-fish-market'), { passes: 64, what: 'pad' })
    const begun = await server.api<JobView>('/api/bounce', { method: 'POST', body: { spec: long, folder } })
    await server.api(`/api/jobs/${begun.id}/cancel`, { method: 'POST' })
    expect(['cancelled', 'done']).toContain((await server.ended(begun)).state)
    expect(readdirSync(folder).filter(name => name.startsWith('.'))).toEqual([])
    await expect(server.api('/api/bounce', { method: 'POST', body: { spec: long, folder: '/etc' } })).rejects.toThrow()
  })
})

describe('a preset with a pattern of its own', () => {
  it('holds it as a document and a MIDI file, plays it as its preview, and brings it along', async () => {
    const pattern = await shipped('shipped-gangway')
    const job = await server.ended(await server.api<JobView>('/api/vault/store', { method: 'POST', body: { kitId: null, kit, name: 'Quay at night', presetId: null, pattern: { id: 'my-own', document: { ...pattern, name: 'Night gang' } } } }))
    expect(job.state, job.error ?? '').toBe('done')
    const { path, presetId } = job.result as { path: string, presetId: string }
    expect(existsSync(join(path, 'data', 'patterns', 'Night gang.mid'))).toBe(true)
    // One bar at 96 beats a minute is 2.5 seconds; the last hits ring on.
    expect(statSync(join(path, 'data', 'preview.wav')).size).toBeGreaterThan(2 * 48_000 * 4)
    const opened = await server.api<KitView>(`/api/vault/${presetId}/open`, { method: 'POST' })
    expect(opened.patternId).toBe('my-own')
    const row = (await server.api<PatternRow[]>('/api/patterns')).find(one => one.id === 'my-own')
    expect(row).toMatchObject({ name: 'Night gang', folder: 'With presets', usedIn: ['Quay at night'] })
    // Once more it is the same pattern, until it is changed: then the preset brings its own beside it.
    expect((await server.api<KitView>(`/api/vault/${presetId}/open`, { method: 'POST' })).patternId).toBe('my-own')
    const known = await server.api<PatternView>('/api/patterns/my-own')
    await server.api('/api/patterns/my-own', { method: 'PUT', body: { difference: differenceOf(known.pattern, setPattern(known.pattern, { tempoBpm: 120 })), baseRevision: known.revision, from: 't' } })
    const again = await server.api<KitView>(`/api/vault/${presetId}/open`, { method: 'POST' })
    expect(again.patternId).not.toBe('my-own')
    expect((await shipped(again.patternId!)).tempoBpm).toBe(96)
  })
})
