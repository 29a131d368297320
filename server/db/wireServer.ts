import { createServer, type Server, type Socket } from 'node:net'
import type { PGlite } from '@electric-sql/pglite'
import { CANCEL_REQUEST, FrontendMessages, GSS_REQUEST, SSL_REQUEST, type FrontendMessage } from './frontendMessages'

/** What is needed of PGlite. */
export type WireDatabase = Pick<PGlite, 'execProtocolRawStream'>

const READY_FOR_QUERY = 'Z'.charCodeAt(0)
const IDLE = 'I'.charCodeAt(0)
const READY_BYTES = 6
const SYNC = Uint8Array.from([0x53, 0, 0, 0, 4])
const ROLLBACK = Uint8Array.from([0x51, 0, 0, 0, 13, ...Buffer.from('ROLLBACK'), 0])

/**
 * Lets several connections share the one session that PGlite has. A connection keeps the database from the first
 * message of a statement until the database is idle again: unnamed statements, portals and transactions belong to
 * the session, so that a message of another connection in between would be answered with the wrong rows.
 * Source: PostgreSQL 15 documentation, 55.2 "Message Flow".
 */
class Turnstile {
  private last: Promise<void> = Promise.resolve()

  /** Waits for its turn; what it gives back ends the turn. */
  async enter(): Promise<() => void> {
    const before = this.last
    let leave: () => void = () => undefined
    this.last = new Promise((resolve) => {
      leave = resolve
    })
    await before
    return leave
  }
}

class Connection {
  private readonly messages = new FrontendMessages()
  private leave: (() => void) | undefined
  private work: Promise<void> = Promise.resolve()

  constructor(private readonly socket: Socket, private readonly database: WireDatabase, private readonly turnstile: Turnstile) {
    socket.setNoDelay(true)
    socket.on('data', chunk => this.take(chunk))
    socket.on('error', () => socket.destroy())
    socket.on('close', () => this.then(() => this.giveUp()))
  }

  private take(chunk: Uint8Array): void {
    try {
      for (const message of this.messages.take(chunk)) this.then(() => this.answer(message))
    }
    catch {
      this.socket.destroy()
    }
  }

  /** Messages are answered one after the other, and the end of the connection comes after the last of them. */
  private then(step: () => Promise<void>): void {
    this.work = this.work.then(step).catch(() => {
      this.socket.destroy()
    })
  }

  private async answer(message: FrontendMessage): Promise<void> {
    if (this.socket.destroyed) return
    if (message.code === SSL_REQUEST || message.code === GSS_REQUEST) {
      this.socket.write('N')
      return
    }
    if (message.code === CANCEL_REQUEST || message.type === 'X') {
      this.socket.end()
      return
    }
    this.leave ??= await this.turnstile.enter()
    const reply = await execute(this.database, message.bytes)
    if (reply.length > 0 && this.socket.writable) this.socket.write(reply)
    if (endsIdle(reply)) this.release()
  }

  /** A client that went away in the middle of something: what it began is rolled back. */
  private async giveUp(): Promise<void> {
    if (!this.leave) return
    try {
      await execute(this.database, SYNC)
      await execute(this.database, ROLLBACK)
    }
    finally {
      this.release()
    }
  }

  private release(): void {
    this.leave?.()
    this.leave = undefined
  }
}

/** The reply to a message, as it stands on the wire: `execProtocolRaw` would read every row of it as well, and keep them all. */
async function execute(database: WireDatabase, message: Uint8Array): Promise<Uint8Array> {
  const pieces: Uint8Array[] = []
  // A piece is part of the database's own memory, which it writes to again.
  await database.execProtocolRawStream(message, { onRawData: piece => pieces.push(piece.slice()) })
  return pieces.length === 1 ? pieces[0]! : Buffer.concat(pieces)
}

function endsIdle(reply: Uint8Array): boolean {
  return reply.length >= READY_BYTES && reply[reply.length - READY_BYTES] === READY_FOR_QUERY && reply[reply.length - 1] === IDLE
}

/** Answers the PostgreSQL protocol on a Unix socket from one PGlite. Gives back what closes it. */
export async function serveWire(database: WireDatabase, socketPath: string): Promise<() => Promise<void>> {
  const turnstile = new Turnstile()
  const sockets = new Set<Socket>()
  const server: Server = createServer((socket) => {
    sockets.add(socket)
    socket.on('close', () => sockets.delete(socket))
    new Connection(socket, database, turnstile)
  })
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject)
    server.listen(socketPath, resolve)
  })
  return async () => {
    const closed = new Promise(resolve => server.close(resolve))
    for (const socket of sockets) socket.destroy()
    await closed
    await turnstile.enter()
  }
}
