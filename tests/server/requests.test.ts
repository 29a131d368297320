import { request } from 'node:http'
import { connect } from 'node:net'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { JobView, Stored } from '../../contract/jobs'
import type { VaultView } from '../../contract/vault'
import { drumKit } from '../helpers/drumKit'
import { freshFolder, put, waveOf } from '../helpers/folder'
import { startServer, type RunningServer } from '../helpers/server'

// Requests as nobody who means well sends them, and the same wish of several at once.
let server: RunningServer
const data = freshFolder()

beforeAll(async () => {
  const samples = join(data, 'samples')
  for (let i = 1; i <= 3; i++) put(samples, `Kicks/Kick ${i}.wav`, waveOf(50 + i))
  server = await startServer({ data, roots: [data] })
  await server.ended(await server.api<JobView>('/api/sources', { method: 'POST', body: { path: samples } }))
})
afterAll(() => server.stop())

describe('a request', () => {
  it('of a body that never ends is refused while it comes in, and the server goes on answering', async () => {
    let sent = 0
    const answer = await new Promise<number>((done, fail) => {
      const asking = request({ host: '127.0.0.1', port: server.port, path: '/api/kits', method: 'POST', headers: { 'Content-Type': 'application/json' } }, (response) => {
        response.resume()
        done(response.statusCode ?? 0)
      })
      // Whoever goes on sending after the answer finds the line cut.
      asking.on('error', thrown => 'code' in thrown && ['EPIPE', 'ECONNRESET'].includes(String(thrown.code)) ? done(413) : fail(thrown))
      const part = Buffer.alloc(1_000_000, 0x20)
      const more = () => {
        while (sent < 700_000_000 && !asking.destroyed) {
          sent += part.length
          if (!asking.write(part)) return void asking.once('drain', more)
        }
        asking.end()
      }
      more()
    })
    expect(answer).toBe(413)
    expect(sent).toBeLessThan(100_000_000)
    expect((await fetch(`${server.url}/api/kits`)).status).toBe(200)
  })

  it('for a route that is not there is answered in JSON, and everything stays with its own origin', async () => {
    for (const method of ['GET', 'POST', 'DELETE']) {
      const answer = await fetch(`${server.url}/api/nothing/here`, { method })
      expect([answer.status, answer.headers.get('content-type')?.split(';')[0]]).toEqual([404, 'application/json'])
      expect(((await answer.json()) as { message: string }).message).toMatch(/\.$/)
      expect(answer.headers.get('cross-origin-resource-policy')).toBe('same-origin')
    }
    for (const path of ['/', '/api/kits', '/mark.svg']) expect((await fetch(server.url + path)).headers.get('cross-origin-resource-policy'), path).toBe('same-origin')
  })

  it('with two Host lines is refused', async () => {
    const answer = await new Promise<string>((done, fail) => {
      let text = ''
      const line = connect(server.port, '127.0.0.1', () => line.write(`GET /api/kits HTTP/1.1\r\nHost: 127.0.0.1:${server.port}\r\nHost: elsewhere.example\r\nConnection: close\r\n\r\n`))
      line.on('data', part => text += String(part)).on('end', () => done(text)).on('error', fail)
    })
    expect(answer).toMatch(/^HTTP\/1\.1 (400|403)/)
  })
})

describe('the same name, wanted by several at once', () => {
  async function stored(name: string): Promise<Stored> {
    const { id, kit } = await drumKit(server.api, name, ['kick'])
    const job = await server.ended(await server.api<JobView>('/api/vault/store', { method: 'POST', body: { kitId: id, kit, name, presetId: null } }))
    if (job.state !== 'done') throw new Error(job.error ?? job.state)
    return job.result as Stored
  }
  const names = async () => (await server.api<VaultView>('/api/vault')).presets.map(preset => preset.name).sort()

  it('is one\'s alone: of six renames one is done, of two stores one, and deletes at once are each answered', async () => {
    const six = await Promise.all(Array.from({ length: 6 }, (_, i) => stored(`Deck ${i}`)))
    const renamed = await Promise.allSettled(six.map(({ presetId }) => server.api(`/api/vault/${presetId}/rename`, { method: 'POST', body: { name: 'Wanted' } })))
    expect(renamed.filter(({ status }) => status === 'fulfilled')).toHaveLength(1)
    expect((await names()).filter(name => name === 'Wanted')).toHaveLength(1)
    expect(await names()).toHaveLength(6)

    const twice = await Promise.allSettled([stored('Twice'), stored('Twice')])
    expect(twice.filter(({ status }) => status === 'fulfilled')).toHaveLength(1)
    expect((await names()).filter(name => name === 'Twice')).toHaveLength(1)

    const { presetId } = six[0]!
    const deleted = await Promise.allSettled([1, 2, 3].map(() => server.api(`/api/vault/${presetId}`, { method: 'DELETE' })))
    expect(deleted.filter(({ status }) => status === 'fulfilled')).toHaveLength(1)
    for (const one of deleted) if (one.status === 'rejected') expect(String(one.reason)).toMatch(/no longer|not there|is gone/)
    expect(await names()).toHaveLength(6)
  })
})
