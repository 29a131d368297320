import { createServer, type Server, type Socket } from 'node:net'
import type { PGlite } from '@electric-sql/pglite'
import { CANCEL_REQUEST, FrontendMessages, GSS_REQUEST, SSL_REQUEST, type FrontendMessage } from './frontendMessages'

/** What is needed of PGlite. */
export type WireDatabase = Pick<PGlite, 'execProtocolRawStream'>

const ERROR_RESPONSE = 'E'.charCodeAt(0)
/** Severity of an error after which the database answers nothing any more. Source: PostgreSQL 15 documentation, 55.8 "Error and Notice Message Fields". */
const PANIC = Buffer.from('VPANIC\0')

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

  constructor(private readonly socket: Socket, private readonly database: WireDatabase, private readonly turnstile: Turnstile, private readonly onDead: () => void) {
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
    const reply = await this.execute(message.bytes)
    if (reply.length > 0 && this.socket.writable) this.socket.write(reply)
    if (endsIdle(reply)) this.release()
  }

  /** A client that went away in the middle of something: what it began is rolled back. */
  private async giveUp(): Promise<void> {
    if (!this.leave) return
    try {
      await this.execute(SYNC)
      await this.execute(ROLLBACK)
    }
    finally {
      this.release()
    }
  }

  private async execute(message: Uint8Array): Promise<Uint8Array> {
    try {
      return await execute(this.database, message, this.onDead)
    }
    catch (thrown) {
      // Errors of statements are replies: what is thrown is the end of the database itself.
      this.onDead()
      throw thrown
    }
  }

  private release(): void {
    this.leave?.()
    this.leave = undefined
  }
}

/** The reply to a message, as it stands on the wire: `execProtocolRaw` would read every row of it as well, and keep them all. */
async function execute(database: WireDatabase, message: Uint8Array, onDead: () => void): Promise<Uint8Array> {
  const pieces: Uint8Array[] = []
  await database.execProtocolRawStream(message, {
    onRawData: (piece) => {
      // After this nothing comes any more, not even the end of this reply.
      if (isPanic(piece)) onDead()
      // A piece is part of the database's own memory, which it writes to again.
      pieces.push(piece.slice())
    },
  })
  return pieces.length === 1 ? pieces[0]! : Buffer.concat(pieces)
}

function isPanic(piece: Uint8Array): boolean {
  return piece[0] === ERROR_RESPONSE && Buffer.from(piece.buffer, piece.byteOffset, Math.min(piece.length, 64)).includes(PANIC)
}

function endsIdle(reply: Uint8Array): boolean {
  return reply.length >= READY_BYTES && reply[reply.length - READY_BYTES] === READY_FOR_QUERY && reply[reply.length - 1] === IDLE
}

/**
 * Answers the PostgreSQL protocol on a Unix socket from one PGlite. Gives back what closes it.
 *
 * @param onDead called when the database has come to an end by itself, as it does where its disk is full: it has to be opened anew
 */
export async function serveWire(database: WireDatabase, socketPath: string, onDead: () => void = () => undefined): Promise<() => Promise<void>> {
  const turnstile = new Turnstile()
  const sockets = new Set<Socket>()
  const server: Server = createServer((socket) => {
    sockets.add(socket)
    socket.on('close', () => sockets.delete(socket))
    new Connection(socket, database, turnstile, onDead)
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
