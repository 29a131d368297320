import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { differenceOf } from '../../core/document/difference'
import { emptyKit, wholeLayer, type Kit } from '../../core/kit/document'
import { addBank, renameKit, setPads } from '../../core/kit/edits'
import { writeWave } from '../../core/audio/wave/write'
import { readParcels } from '../../core/parcel/parcels'
import { splitEvenly } from '../../core/kit/layerEdits'
import type { JobView } from '../../contract/jobs'
import type { KitView } from '../../contract/kits'
import type { SoundRow } from '../../contract/library'
import { sine } from '../helpers/audio'
import { freshFolder } from '../helpers/folder'
import { testSound } from '../helpers/kit'
import { startServer, type RunningServer } from '../helpers/server'

let server: RunningServer
let data: string

beforeAll(async () => {
  data = freshFolder()
  server = await startServer({ data, roots: [data] })
})
afterAll(() => server.stop())

/** 128 pads of 16 layers each. */
function largest(): Kit {
  let kit = emptyKit('Largest')
  while (kit.pads.length < 128) kit = addBank(kit)
  const layered: Kit = { ...kit, pads: kit.pads.map((pad, i) => ({ ...pad, layers: Array.from({ length: 16 }, (_, layer) => wholeLayer(testSound(i * 16 + layer + 1).sound)) })) }
  return layered.pads.reduce((state, _, index) => splitEvenly(state, index), layered)
}

const make = (kit: Kit) => server.api<KitView>('/api/kits', { method: 'POST', body: { kit } })
const read = (id: string) => server.api<KitView>(`/api/kits/${id}`)
const save = (id: string, body: object) => server.api<{ revision: number }>(`/api/kits/${id}`, { method: 'PUT', body: { from: 'test', ...body } })

it('the largest kit there is, 128 pads of 16 layers, is kept, and saved by what changed of it', async () => {
  const kit = largest()
  const { id } = await make(kit)
  const edited = renameKit(setPads(kit, [100], { gainDb: -6 }), 'Louder')
  const difference = differenceOf(kit, edited)
  expect(difference.map(({ at }) => at)).toEqual([['name'], ['pads', 100, 'gainDb']])
  expect((await save(id, { difference, baseRevision: 1 })).revision).toBe(2)
  expect((await read(id)).kit).toEqual(edited)
})

it('an edit that builds on another revision, or makes no whole kit, changes nothing and says so', async () => {
  const kit = emptyKit('Small')
  const { id } = await make(kit)
  const difference = differenceOf(kit, setPads(kit, [0], { pan: 1 }))
  await expect(save(id, { difference, baseRevision: 7 })).rejects.toThrow('was changed elsewhere in the meantime')
  await expect(save(id, { difference: [{ at: ['pads'], from: 3, was: kit.pads.slice(3), is: [] }], baseRevision: 1 })).rejects.toThrow('This is not a valid kit')
  await expect(save(id, { difference: [{ at: ['pads', 0, 'note'], is: 300 }], baseRevision: 1 })).rejects.toThrow('This is not a valid kit')
  await expect(save(id, { difference: [{ at: ['pads', 500, 'note'], is: 30 }], baseRevision: 1 })).rejects.toThrow(/not there: pads \/ 500/)
  await expect(save(id, { baseRevision: 1 })).rejects.toThrow('Nothing to save was given')
  await expect(save(id, { kit: { ...kit, schema: 99 }, baseRevision: 1 })).rejects.toThrow('newer Emporion')
  expect(await read(id)).toMatchObject({ revision: 1, kit, writtenBy: null })
})

it('a kit set is made whole or not at all', async () => {
  const before = (await server.api<unknown[]>('/api/kits')).length
  await expect(server.api('/api/kits/set', { method: 'POST', body: { kits: [emptyKit('One'), { ...emptyKit('Two'), pads: [] }] } })).rejects.toThrow('This is not a valid kit')
  expect(await server.api<unknown[]>('/api/kits')).toHaveLength(before)
  await server.api('/api/kits/set', { method: 'POST', body: { kits: [emptyKit('One'), emptyKit('Two')] } })
  expect((await server.api<{ name: string }[]>('/api/kits')).map(kit => kit.name)).toEqual(expect.arrayContaining(['One', 'Two']))
})

it('the sounds of a kit are sent many at once, byte for byte, and those that cannot be are reported', async () => {
  const samples = join(data, 'samples')
  mkdirSync(samples)
  const waves = new Map([['Short', 2_000], ['Middle', 30_000], ['Long', 2_400_000]].map(([name, frames]) => [String(name), writeWave([sine(Number(frames) / 50, 44_100, Number(frames), 0.5)], 44_100, { depth: 16 })]))
  for (const [name, bytes] of waves) writeFileSync(join(samples, `${name}.wav`), bytes)
  await server.ended(await server.api<JobView>('/api/sources', { method: 'POST', body: { path: samples } }))
  const { rows } = await server.api<{ rows: SoundRow[] }>('/api/sounds?limit=10')
  const hashOf = (name: string) => rows.find(row => row.name.startsWith(name))!.hash
  const ask = (hashes: readonly string[]) => fetch(`${server.url}/api/audio`, { method: 'POST', body: JSON.stringify({ hashes }) })
  const answer = await ask([hashOf('Middle'), 'f'.repeat(64), hashOf('Long'), hashOf('Short')])
  const files: (Uint8Array | null)[] = []
  for await (const file of readParcels(answer.body as unknown as AsyncIterable<Uint8Array>)) files.push(file)
  expect(files.map(file => file?.length ?? null)).toEqual([waves.get('Middle')!.length, null, null, waves.get('Short')!.length])
  expect(Buffer.from(files[0]!).equals(Buffer.from(waves.get('Middle')!))).toBe(true)
  // What is too long to be sent along is there by itself.
  const alone = new Uint8Array(await (await fetch(`${server.url}/api/audio/${hashOf('Long')}`)).arrayBuffer())
  expect(Buffer.from(alone).equals(readFileSync(join(samples, 'Long.wav')))).toBe(true)
  for (const wrong of [[], ['../../etc/passwd'], Array.from({ length: 65 }, () => hashOf('Short'))]) expect((await ask(wrong)).status).toBe(400)
})
