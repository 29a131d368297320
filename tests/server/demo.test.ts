import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, it } from 'vitest'
import type { DemoRemoved, SourceView } from '../../contract/sources'
import type { DemoResult, JobView } from '../../contract/jobs'
import type { SearchPage } from '../../contract/library'
import type { VaultView } from '../../contract/vault'
import { freshFolder, put, waveOf } from '../helpers/folder'
import { startServer, type RunningServer } from '../helpers/server'

let server: RunningServer
let data: string
let samples: string

beforeAll(async () => {
  data = freshFolder()
  samples = freshFolder()
  put(samples, 'Own/Kick.wav', waveOf(55))
  server = await startServer({ data, roots: [samples] })
})
afterAll(() => server.stop())

it('the demo is made on the spot with a dozen presets, beside what one has already, and taken away again in one step', async () => {
  await server.ended(await server.api<JobView>('/api/sources', { method: 'POST', body: { path: join(samples, 'Own') } }))
  // Asked for twice at once it is made once.
  const [asked, twice] = await Promise.all([1, 2].map(() => server.api<JobView>('/api/demo', { method: 'POST' })))
  expect(twice!.id).toBe(asked!.id)
  const made = await server.ended(asked!)
  expect(made).toMatchObject({ state: 'done', error: null })
  expect((made.result as DemoResult).sources).toBe(4)
  expect((made.result as DemoResult).presets).toBeGreaterThanOrEqual(13)
  expect((await server.api<SearchPage>('/api/sounds?limit=0')).total).toBeGreaterThan(395)
  const { presets } = await server.api<VaultView>('/api/vault')
  expect(presets.every(preset => preset.problem === null && preset.samples > 0)).toBe(true)
  expect(await server.api('/api/demo')).toEqual({ sources: 4 })

  // Once more finds all as it is.
  const again = await server.ended(await server.api<JobView>('/api/demo', { method: 'POST' }))
  expect(again.result).toEqual({ sources: 4, presets: 0 })

  const removed = await server.api<DemoRemoved>('/api/demo', { method: 'DELETE' })
  expect(removed).toEqual({ sources: 4, presets: presets.length })
  expect((await server.api<SourceView[]>('/api/sources')).map(source => source.name)).toEqual(['Own'])
  expect((await server.api<SearchPage>('/api/sounds?limit=0')).total).toBe(1)
  expect((await server.api<VaultView>('/api/vault')).presets).toEqual([])
  expect(existsSync(join(data, 'demo-sounds'))).toBe(false)
}, 300_000)
