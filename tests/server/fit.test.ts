import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { writeWave } from '../../core/audio/wave/write'
import { planFit } from '../../core/fit/plan'
import { overOf } from '../../core/fit/usage'
import type { Kit } from '../../core/kit/document'
import type { HeardFit, KitMeasures, ReadForeign, TargetView, WrittenFits } from '../../contract/fit'
import type { JobView } from '../../contract/jobs'
import type { VaultView } from '../../contract/vault'
import { sine } from '../helpers/audio'
import { drumKit } from '../helpers/drumKit'
import { NO_WISHES, target } from '../helpers/fit'
import { freshFolder } from '../helpers/folder'
import { startServer, type RunningServer } from '../helpers/server'

let server: RunningServer
let data: string
let kit: Kit

beforeAll(async () => {
  data = freshFolder()
  const samples = join(data, 'samples')
  mkdirSync(samples)
  for (const [i, name] of ['Kick 01', 'Snare 01', 'Closed Hat 01', 'Clap 01'].entries()) {
    const tone = sine(70 * 4 ** i, 48_000, 96_000, 0.5).map((value, t) => value * Math.exp(-t / 9_000))
    writeFileSync(join(samples, `${name}.wav`), writeWave([tone, tone.map(value => value * 0.7)], 48_000, { depth: 24 }))
  }
  server = await startServer({ data, roots: [data] })
  await server.ended(await server.api<JobView>('/api/sources', { method: 'POST', body: { path: samples } }))
  kit = (await drumKit(server.api, 'Quay', ['kick', 'snare', 'hat.closed', 'clap'])).kit
})
afterAll(() => server.stop())

const job = async <T>(path: string, body: unknown): Promise<T> => {
  const ended = await server.ended(await server.api<JobView>(path, { method: 'POST', body }))
  if (ended.state !== 'done') throw new Error(ended.error ?? ended.state)
  return ended.result as T
}
const write = (targets: readonly unknown[], folder: string | null) => job<WrittenFits>('/api/fit/write', { spec: { kits: [{ kit }], targets, wishes: NO_WISHES, way: null, withoutMissing: false }, folder })

describe('targets', () => {
  const own = { ...target('lembos'), id: 'my-box', name: 'My box', limits: { ...target('lembos').limits, seconds: 5 } }

  it('of the user\'s own are kept as files, changed and taken away; those that ship stay', async () => {
    await server.api('/api/targets/my-box', { method: 'PUT', body: own })
    const list = async () => (await server.api<{ targets: TargetView[] }>('/api/targets')).targets
    expect((await list()).find(view => view.isOwn)!.target).toEqual(own)
    expect(JSON.parse(readFileSync(join(data, 'targets', 'my-box.json'), 'utf8'))).toEqual(own)
    await expect(server.api('/api/targets/lembos', { method: 'PUT', body: target('lembos') })).rejects.toThrow(/stays as it is/)
    await expect(server.api('/api/targets/my-box', { method: 'PUT', body: { ...own, pads: { banks: 200, inBank: 1, columns: 1 } } })).rejects.toThrow(/not understood/)
    await server.api('/api/targets/my-box', { method: 'DELETE' })
    expect((await list()).some(view => view.isOwn)).toBe(false)
  })

  it('that are broken on disk are reported and hide no other', async () => {
    mkdirSync(join(data, 'targets'), { recursive: true })
    writeFileSync(join(data, 'targets', 'broken.json'), '{"schema": 1}')
    const { targets, problems } = await server.api<{ targets: TargetView[], problems: string[] }>('/api/targets')
    expect(problems.join()).toContain('broken.json')
    expect(targets.length).toBeGreaterThan(10)
  })
})

describe('a kit', () => {
  it('is measured, and planned from that within the limits', async () => {
    const tight = { ...target('lembos'), limits: { ...target('lembos').limits, seconds: 3 } }
    const { id } = await job<{ id: string }>('/api/fit/measures', { kit: { kit }, target: tight })
    const measures = await server.api<KitMeasures>(`/api/fit/measures/${id}`)
    const plan = planFit(kit, tight, (padIndex, at) => measures[padIndex]![at]!, NO_WISHES)
    expect(plan.before.seconds).toBeCloseTo(8, 2)
    expect(overOf(plan.after, tight)).toEqual([])
    expect(plan.rows.every(row => row.state === 'kept')).toBe(true)
  })

  it('is written for several targets at once, with one summary: what cannot be holds up no other', async () => {
    const out = join(data, 'out')
    mkdirSync(out)
    const impossible = { ...target('holkas'), id: 'none', name: 'Nothing fits', limits: { ...target('holkas').limits, bytes: 10 } }
    const { items } = await write([target('lembos'), impossible, target('sfz')], out)
    expect(items.map(item => [item.target, item.error === null])).toEqual([['Lembos', true], ['Nothing fits', false], ['SFZ', true]])
    expect(items[1]!.error).toMatch(/Size: at least 0\.\d\d MB needed, Nothing fits has 0\.00 MB/)
    expect(readdirSync(out).sort()).toEqual(['Quay for Lembos', 'Quay for SFZ'])
  })

  it('is handed over to be downloaded as one archive with its folders', async () => {
    const { download } = await write([target('sfz')], null)
    const response = await fetch(`${server.url}/api/fit/${download}`)
    expect(response.headers.get('content-type')).toBe('application/zip')
    const bytes = Buffer.from(await response.arrayBuffer())
    expect(bytes.includes('Quay for SFZ/Quay.sfz')).toBe(true)
    expect(bytes.includes('Quay for SFZ/samples/')).toBe(true)
  })

  it('is never written into a source', async () => {
    await expect(write([target('sfz')], join(data, 'samples'))).rejects.toThrow(/never written to/)
  })

  it('is heard before and after at one loudness, with the level of the difference', async () => {
    const ask = (id: string) => job<HeardFit>('/api/fit/hear', { kit: { kit }, target: target(id), wishes: NO_WISHES, way: 'note', pattern: null })
    const [lossless, folded] = [await ask('package'), await ask('lembos')]
    expect(lossless.differenceDb).toBe(-120)
    // The right side is 3.1 dB below the left: what both do not share lies 15 dB down. (1-0.7)^2/2 over 1+0.7^2: arithmetic.
    expect(folded.differenceDb).toBeCloseTo(10 * Math.log10((0.3 ** 2 / 2) / (1 + 0.7 ** 2)), 0)
    for (const which of ['before', 'after', 'difference']) expect((await fetch(`${server.url}/api/fit/heard/${folded.id}/${which}`)).status).toBe(200)
  })

  it('that is written when the server is killed leaves nothing half-written', async () => {
    const out = join(data, 'killed')
    mkdirSync(out)
    const own = freshFolder()
    const other = await startServer({ data: own, roots: [data, own] })
    await other.ended(await other.api<JobView>('/api/sources', { method: 'POST', body: { path: join(data, 'samples') } }))
    const many = Array.from({ length: 40 }, (_, i) => ({ ...target('samples'), name: `Set ${i}` }))
    await other.api<JobView>('/api/fit/write', { method: 'POST', body: { spec: { kits: [{ kit }], targets: many, wishes: NO_WISHES, way: null, withoutMissing: false }, folder: out } })
    await expect.poll(() => readdirSync(out).filter(name => !name.startsWith('.')).length, { timeout: 30_000, interval: 5 }).toBeGreaterThan(2)
    await other.stop('SIGKILL')
    for (const name of readdirSync(out).filter(one => !one.startsWith('.'))) expect(existsSync(join(out, name, 'report.txt'))).toBe(true)
  })
})

describe('kits of other forms', () => {
  it('come into the vault with their samples, are self-contained at once, and get a free name', async () => {
    const { items } = await write([target('sf2')], join(data, 'out'))
    const bank = join(items[0]!.folder!, 'Quay.sf2')
    const listing = await server.api<{ format: string, choices: { name: string, place: string }[] }>('/api/foreign/list', { method: 'POST', body: { path: bank } })
    expect([listing.format, listing.choices]).toEqual(['SoundFont', [{ name: 'Quay', place: '128:0' }]])
    const read = () => job<ReadForeign>('/api/foreign/import', { path: bank, middleC: 'C3' })
    expect([(await read()).name, (await read()).name]).toEqual(['Quay', 'Quay 2'])
    const { presets } = await server.api<VaultView>('/api/vault')
    expect(presets.map(preset => [preset.name, preset.pads, preset.problem])).toEqual([['Quay', 4, null], ['Quay 2', 4, null]])
    const again = await job<WrittenFits>('/api/fit/write', { spec: { kits: presets.map(preset => ({ presetId: preset.id })), targets: [target('lembos')], wishes: NO_WISHES, way: null, withoutMissing: false }, folder: join(data, 'out') })
    expect(again.items.map(item => item.error)).toEqual([null, null])
  })

  it('outside of the folders that may be read are refused', async () => {
    await expect(server.api('/api/foreign/list', { method: 'POST', body: { path: '/etc/hosts' } })).rejects.toThrow(/outside the folders/)
    await expect(server.api('/api/foreign/import', { method: 'POST', body: { path: '/etc/hosts', middleC: 'C3' } })).rejects.toThrow(/outside the folders/)
  })
})
