import { mkdirSync } from 'node:fs'
import { Agent, request } from 'node:http'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { z } from 'zod'
import { emptyPattern } from '../../core/groove/document'
import { emptyKit } from '../../core/kit/document'
import { ENDPOINTS } from '../../contract'
import type { Endpoint } from '../../contract/endpoint'
import type { JobView } from '../../contract/jobs'
import { studioRoutes } from '../../contract/studio'
import { drumKit } from '../helpers/drumKit'
import { freshFolder, put, waveOf } from '../helpers/folder'
import { mutated, ODD, pick, seeded, shapeOf, valueOf, type Random } from '../helpers/fuzz'
import { startServer, type RunningServer } from '../helpers/server'

const REQUESTS = 20_000
const AT_ONCE = 6
const seed = Number(process.env.EMPORION_FUZZ_SEED ?? Date.now() % 1_000_000)

/** All but the stream of events, which never ends. */
const ALL = ENDPOINTS.filter(endpoint => endpoint !== studioRoutes.events)

let server: RunningServer
const data = freshFolder()
/** Names of things that are there, and words. */
const texts: string[] = ['Kick', 'hat', 'a b c', 'kind=kick length<0.4', 'Night deck', '1', '2', 'shipped-gangway']

beforeAll(async () => {
  const samples = join(data, 'samples')
  for (let i = 0; i < 12; i++) put(samples, `${['Kicks', 'Snares', 'Hats'][i % 3]}/${['kick', 'snare', 'closed hat'][i % 3]} ${i}.wav`, waveOf(60 + i * 10))
  mkdirSync(join(data, 'out'))
  server = await startServer({ data, roots: [data] })
  await server.ended(await server.api<JobView>('/api/sources', { method: 'POST', body: { path: samples } }))
  const { id, kit } = await drumKit(server.api, 'Quay', ['kick', 'snare'])
  const stored = await server.ended(await server.api<JobView>('/api/vault/store', { method: 'POST', body: { kitId: id, kit, name: 'Quay', presetId: null } }))
  texts.push(id, stored.id, (stored.result as { presetId: string }).presetId, samples, join(data, 'out'), ...kit.pads.flatMap(pad => pad.layers.map(layer => layer.sound.id)))
}, 60_000)
afterAll(() => server.stop('SIGKILL'))

/** Documents and other things for what a schema says nothing of. */
function anything(random: Random): unknown {
  const kit = emptyKit('Fuzz')
  return pick(random, [kit, mutated(kit, random), emptyPattern('Fuzz'), mutated(emptyPattern('Fuzz'), random), pick(random, ODD), { schema: 2 }, { schema: 99 }])
}

interface Asked {
  readonly method: string
  readonly path: string
  readonly body: string | undefined
}

function askedOf({ method, path: place, reads }: Endpoint, random: Random): Asked {
  const value = (schema: z.ZodType | 'bytes' | undefined) => schema && schema !== 'bytes' && valueOf(shapeOf(schema), random, () => anything(random), texts)
  const changed = (one: unknown) => random() < 0.6 ? mutated(one, random) : one
  const path = place.replace(/\[(\w+)\]/g, (_, name: string) => {
    const text = random() < 0.7 ? pick(random, texts) : String(changed(value(reads.params?.[name]) ?? '1'))
    return encodeURIComponent(Array.from(text.slice(0, 2000)).filter(one => !/[\uD800-\uDFFF]/.test(one) || one.length > 1).join('')) || '%20'
  })
  const query = value(reads.query) as Record<string, unknown> | undefined
  const asked = query ? Object.entries(changed(query) as object ?? {}).map(([key, one]) => `${encodeURIComponent(key.replace(/[\uD800-\uDFFF]/g, ''))}=${encodeURIComponent(String(typeof one === 'object' ? JSON.stringify(one) : one).replace(/[\uD800-\uDFFF]/g, '').slice(0, 3000))}`) : []
  const body = method === 'GET' || method === 'DELETE' ? undefined : random() < 0.05 ? pick(random, ['', '{', 'null', '[]', '"x"', '\0', '{"a":']) : JSON.stringify(changed(value(reads.body)) ?? {})
  // Node itself refuses a longer line, before any route sees it.
  const line = asked.length > 0 ? `?${asked.join('&')}`.slice(0, 12_000).replace(/%.?$/, '') : ''
  return { method, path: `${path}${line}`, body }
}

const agent = new Agent({ keepAlive: true, maxSockets: AT_ONCE })

function ask({ method, path, body }: Asked): Promise<{ status: number, text: string }> {
  return new Promise((done, fail) => {
    const sent = request({ host: '127.0.0.1', port: server.port, method, path, agent, headers: { 'Content-Type': 'application/json' }, timeout: 60_000 }, (response) => {
      let text = ''
      response.setEncoding('latin1').on('data', (part: string) => text.length < 20_000 && (text += part)).on('end', () => done({ status: response.statusCode ?? 0, text })).on('error', fail)
    }).on('error', fail)
    sent.on('timeout', () => sent.destroy(new Error('No answer within a minute.')))
    sent.end(body)
  })
}

describe('every route', () => {
  it(`answers wrong input with a sentence and never with 500: ${REQUESTS} requests (seed ${seed})`, async () => {
    expect(ALL.length).toBeGreaterThan(80)
    expect(ALL.filter(({ reads }) => reads.body).length).toBeGreaterThan(25)
    const random = seeded(seed)
    const wrong: string[] = []
    const counts = new Map<number, number>()
    let left = REQUESTS
    const lane = async () => {
      while (left-- > 0 && wrong.length < 10) {
        const asked = askedOf(pick(random, ALL), random)
        const { status, text } = await ask(asked).catch((thrown: unknown) => ({ status: 0, text: String(thrown) }))
        counts.set(status, (counts.get(status) ?? 0) + 1)
        const isSentence = status < 400 || /"message":\s*"(?:[^"\\]|\\.){8,}/.test(text)
        if (status === 0 || status >= 500 || !isSentence) wrong.push(`${status} ${asked.method} ${asked.path.slice(0, 200)} ${asked.body?.slice(0, 300) ?? ''} -> ${text.slice(0, 200)}`)
      }
    }
    await Promise.all(Array.from({ length: AT_ONCE }, lane))
    expect(wrong, server.lastWords()).toEqual([])
    // Not all of it is refused: what is right gets through.
    expect(counts.get(200) ?? 0).toBeGreaterThan(REQUESTS / 20)
    expect(counts.get(400) ?? 0).toBeGreaterThan(REQUESTS / 20)
  }, 600_000)
})
