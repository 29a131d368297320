import { mkdirSync, readdirSync } from 'node:fs'
import { Agent, request } from 'node:http'
import { join, resolve } from 'node:path'
import { setTimeout } from 'node:timers/promises'
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import type { z } from 'zod'
import { emptyPattern } from '../../core/groove/document'
import { emptyKit } from '../../core/kit/document'
import type { JobView } from '../../contract/jobs'
import type * as Route from '../../server/studio/route'
import { drumKit } from '../helpers/drumKit'
import { freshFolder, put, waveOf } from '../helpers/folder'
import { mutated, ODD, pick, seeded, shapeOf, valueOf, type Random } from '../helpers/fuzz'
import { startServer, type RunningServer } from '../helpers/server'

const REQUESTS = 20_000
const AT_ONCE = 6
const seed = Number(process.env.EMPORION_FUZZ_SEED ?? Date.now() % 1_000_000)

/** What a route reads of a request, as its own code says. */
interface Known {
  readonly method: string
  /** With its parameters in brackets. */
  readonly path: string
  readonly params: Map<string, z.ZodType>
  query?: z.ZodType
  body?: z.ZodType
}

const reading = vi.hoisted(() => ({ route: undefined as { params: Map<string, unknown>, query?: unknown, body?: unknown } | undefined }))

// Each route is run once with a request that only notes what is read of it.
vi.mock('../../server/studio/route', async (original) => {
  const stop = (): never => {
    throw new Error('seen')
  }
  return {
    ...await original<typeof Route>(),
    route: (handle: unknown) => handle,
    param: (_event: unknown, name: string, schema: unknown) => {
      reading.route!.params.set(name, schema)
      return '1'
    },
    query: (_event: unknown, schema: unknown) => {
      reading.route!.query = schema
      return {}
    },
    body: (_event: unknown, schema: unknown) => {
      reading.route!.body = schema
      return stop()
    },
    bodyBytes: stop,
  }
})

const refused = Promise.reject(new Error('nothing'))
refused.catch(() => undefined)
const nothing: unknown = new Proxy(() => undefined, { get: (_, key) => key === 'then' ? undefined : nothing, apply: () => refused })

async function routes(): Promise<Known[]> {
  const found: Known[] = []
  for (const file of readdirSync('server/api', { recursive: true, encoding: 'utf8' }).filter(name => name.endsWith('.ts'))) {
    const [, stem, method = 'get'] = /^(.+?)(?:\.(get|post|put|patch|delete))?\.ts$/.exec(file)!
    // The stream of events never ends.
    if (stem === 'events' || stem === '[...]') continue
    const route: Known = { method: method.toUpperCase(), path: `/api/${stem}`.replace(/\/index$/, ''), params: new Map() }
    reading.route = route
    const { default: handle } = await import(resolve('server/api', file)) as { default: (studio: unknown, event: unknown) => unknown }
    try {
      // One that waits for its request to end would wait for ever.
      await Promise.race([handle(nothing, nothing), setTimeout(200)])
    }
    catch {
      // What it read is known by now.
    }
    found.push(route)
  }
  return found
}

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

function askedOf(route: Known, random: Random): Asked {
  const value = (schema: z.ZodType | undefined) => schema && valueOf(shapeOf(schema), random, () => anything(random), texts)
  const changed = (one: unknown) => random() < 0.6 ? mutated(one, random) : one
  const path = route.path.replace(/\[(\w+)\]/g, (_, name: string) => {
    const text = random() < 0.7 ? pick(random, texts) : String(changed(value(route.params.get(name)) ?? '1'))
    return encodeURIComponent(Array.from(text.slice(0, 2000)).filter(one => !/[\uD800-\uDFFF]/.test(one) || one.length > 1).join('')) || '%20'
  })
  const query = value(route.query) as Record<string, unknown> | undefined
  const asked = query ? Object.entries(changed(query) as object ?? {}).map(([key, one]) => `${encodeURIComponent(key.replace(/[\uD800-\uDFFF]/g, ''))}=${encodeURIComponent(String(typeof one === 'object' ? JSON.stringify(one) : one).replace(/[\uD800-\uDFFF]/g, '').slice(0, 3000))}`) : []
  const body = route.method === 'GET' || route.method === 'DELETE' ? undefined : random() < 0.05 ? pick(random, ['', '{', 'null', '[]', '"x"', '\0', '{"a":']) : JSON.stringify(changed(value(route.body)) ?? {})
  // Node itself refuses a longer line, before any route sees it.
  const line = asked.length > 0 ? `?${asked.join('&')}`.slice(0, 12_000).replace(/%.?$/, '') : ''
  return { method: route.method, path: `${path}${line}`, body }
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
    const all = await routes()
    expect(all.length).toBeGreaterThan(80)
    expect(all.filter(route => route.body).length).toBeGreaterThan(25)
    const random = seeded(seed)
    const wrong: string[] = []
    const counts = new Map<number, number>()
    let left = REQUESTS
    const lane = async () => {
      while (left-- > 0 && wrong.length < 10) {
        const asked = askedOf(pick(random, all), random)
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
