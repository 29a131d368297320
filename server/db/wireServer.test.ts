import { mkdtempSync } from 'node:fs'
import { connect as connectTo, type Socket } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { PGlite } from '@electric-sql/pglite'
import fc from 'fast-check'
import pg from 'pg'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { FrontendMessages, type FrontendMessage } from './frontendMessages'
import { serveWire, type WireDatabase } from './wireServer'

describe('messages of a client', () => {
  const startup = Buffer.from([0, 0, 0, 8, 0, 3, 0, 0])
  const message = (type: string, body: Uint8Array) => {
    const head = Buffer.alloc(5)
    head.write(type, 'latin1')
    head.writeUInt32BE(4 + body.length, 1)
    return Buffer.concat([head, body])
  }

  it('are the same however their bytes arrive', () => {
    const bodies = fc.array(fc.tuple(fc.constantFrom('Q', 'P', 'B', 'E', 'S'), fc.uint8Array({ maxLength: 40 })), { maxLength: 8 })
    fc.assert(fc.property(bodies, fc.array(fc.integer({ min: 1, max: 30 }), { minLength: 1 }), (list, sizes) => {
      const sent = list.map(([type, body]) => message(type, body))
      const stream = Buffer.concat([startup, ...sent])
      const splitter = new FrontendMessages()
      const got: FrontendMessage[] = []
      for (let at = 0, i = 0; at < stream.length; i++) {
        const size = sizes[i % sizes.length]!
        got.push(...splitter.take(stream.subarray(at, at + size)))
        at += size
      }
      expect(got.map(one => Buffer.from(one.bytes))).toEqual([startup, ...sent])
      expect(got.slice(1).map(one => one.type)).toEqual(list.map(([type]) => type))
    }))
  })

  it('that state a length that cannot be are refused', () => {
    expect(() => new FrontendMessages().take(Buffer.from([0, 0, 0, 3, 0, 0, 0, 0]))).toThrow(/3 bytes/)
    const open = new FrontendMessages()
    open.take(startup)
    expect(() => open.take(Buffer.from([0x51, 255, 255, 255, 255]))).toThrow(/4294967295 bytes/)
  })
})

describe('a database that comes to its end', () => {
  /** Connects to a database that answers so, and counts how often its end was announced. */
  async function ends(execProtocolRawStream: WireDatabase['execProtocolRawStream']): Promise<() => number> {
    const host = mkdtempSync(join(tmpdir(), 'emp-'))
    let count = 0
    await serveWire({ execProtocolRawStream }, join(host, '.s.PGSQL.5432'), () => count++)
    const socket = connectTo(join(host, '.s.PGSQL.5432'))
    socket.on('error', () => undefined)
    socket.write(Buffer.from([0, 0, 0, 8, 0, 3, 0, 0]))
    return () => count
  }

  it('is told by an error of severity PANIC, after which nothing comes, or by what it throws', async () => {
    const panic = Buffer.from('E\0\0\0\x30SPANIC\0VPANIC\0C53100\0Mno space\0\0', 'latin1')
    const panicking = await ends((_, options) => {
      options?.onRawData?.(panic)
      return new Promise(() => undefined)
    })
    await expect.poll(panicking).toBe(1)
    const throwing = await ends(() => Promise.reject(new Error('unreachable')))
    await expect.poll(throwing).toBeGreaterThan(0)
  })

  it('is not told by what a row holds', async () => {
    let replies = 0
    const told = await ends((_, options) => {
      options?.onRawData?.(Buffer.from('D\0\0\0\x0eVPANIC\0...Z\0\0\0\x05I', 'latin1'))
      replies++
      return Promise.resolve(undefined as never)
    })
    await expect.poll(() => replies).toBe(1)
    expect(told()).toBe(0)
  })
})

describe('one database behind several connections', () => {
  let close: () => Promise<void>
  let connect: () => Promise<pg.Client>

  beforeAll(async () => {
    const host = mkdtempSync(join(tmpdir(), 'emp-'))
    const database = await PGlite.create()
    const closeWire = await serveWire(database, join(host, '.s.PGSQL.5432'))
    close = async () => {
      await closeWire()
      await database.close()
    }
    connect = async () => {
      const client = new pg.Client({ host, port: 5432, user: 'postgres', database: 'postgres' })
      client.on('error', () => undefined)
      await client.connect()
      return client
    }
    const client = await connect()
    await client.query('create table counts (id integer primary key, n integer not null)')
    await client.query('insert into counts values (1, 0)')
    await client.query('create table visits (kind integer not null)')
    await client.end()
  })
  afterAll(() => close())

  it('gives each of them its own answers when all ask at the same time', async () => {
    const clients = await Promise.all(Array.from({ length: 6 }, connect))
    await Promise.all(clients.map(async (client, c) => {
      for (let i = 0; i < 40; i++) {
        const wide = c % 2 === 0
        const { rows } = wide
          ? await client.query('select $1::integer as a, $2::text as b', [c * 1000 + i, `client ${c}`])
          : await client.query('select $1::text as only', [`${c}/${i}`])
        expect(rows).toEqual(wide ? [{ a: c * 1000 + i, b: `client ${c}` }] : [{ only: `${c}/${i}` }])
      }
    }))
    await Promise.all(clients.map(client => client.end()))
  })

  it('goes on after an error of one, and tells it to that one alone', async () => {
    const [good, bad] = await Promise.all([connect(), connect()])
    const asking = async () => {
      for (let i = 0; i < 40; i++) expect((await good.query('select $1::integer as n', [i])).rows).toEqual([{ n: i }])
    }
    const failing = async () => {
      for (let i = 0; i < 40; i++) await expect(bad.query('select $1::integer from no_such_table', [i])).rejects.toThrow(/no_such_table/)
    }
    await Promise.all([asking(), failing()])
    await Promise.all([good.end(), bad.end()])
  })

  it('keeps transactions apart: none of 40 additions from four connections is lost', async () => {
    const clients = await Promise.all(Array.from({ length: 4 }, connect))
    await Promise.all(clients.map(async (client) => {
      for (let i = 0; i < 10; i++) {
        await client.query('begin')
        const { rows } = await client.query('select n from counts where id = $1', [1])
        await client.query('update counts set n = $1 where id = 1', [rows[0].n + 1])
        await client.query('commit')
      }
    }))
    expect((await clients[0]!.query('select n from counts')).rows).toEqual([{ n: 40 }])
    await Promise.all(clients.map(client => client.end()))
  })

  it('rolls back what a client that dies had begun, and lets the others on', async () => {
    const [dying, other] = await Promise.all([connect(), connect()])
    await dying.query('begin')
    await dying.query('update counts set n = -1 where id = 1')
    const waiting = other.query('select n from counts')
    die(dying)
    expect((await waiting).rows[0].n).not.toBe(-1)
    await other.end()
  })

  it('gives no wrong rows while other clients come, commit, roll back, and die', async () => {
    let busy = true
    const visitors = Promise.all([0, 1, 2].map(async (kind) => {
      while (busy) {
        const visitor = await connect()
        await visitor.query('begin')
        await visitor.query('insert into visits values ($1)', [kind])
        await visitor.query(kind === 0 ? 'rollback' : 'commit')
        if (kind === 2) die(visitor)
        else await visitor.end()
      }
    }))
    await Promise.all([1, 2, 3, 4].map(async (own) => {
      const client = await connect()
      for (let i = 0; i < 200; i++) {
        const { rows } = await client.query('select $1::integer as n, count(*) from visits', [i * 10 + own])
        expect(rows[0].n).toBe(i * 10 + own)
      }
      await client.end()
    }))
    busy = false
    await visitors
  })

  it('takes statements larger than one piece of the socket, and gives back as large rows', async () => {
    const client = await connect()
    const text = 'ferry '.repeat(200_000)
    const { rows } = await client.query('select $1::text as text', [text])
    expect(rows[0].text === text).toBe(true)
    await client.end()
  })
})

/** Ends a client's connection as a killed thread does, without a word. */
function die(client: pg.Client): void {
  const { stream } = (client as unknown as { connection: { stream: Socket } }).connection
  stream.destroy()
}
