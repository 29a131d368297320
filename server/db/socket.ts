import { randomUUID } from 'node:crypto'
import { chmod, mkdtemp, rm } from 'node:fs/promises'
import { Socket } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

/** The number that `pg` puts into the name of a Unix socket. */
const SOCKET_PORT = 5432

/** Where the database of this process answers: a Unix socket in a folder, or a named pipe. */
export type LocalAddress = { readonly host: string, readonly port: number } | { readonly pipe: string }

export interface SocketPlace {
  readonly address: LocalAddress
  /** What the server listens on. */
  readonly path: string
  readonly remove: () => Promise<void>
}

/**
 * A place of its own for the database to answer at, which no other user of the machine can reach: a Unix socket in a private
 * folder; on Windows, where Node has none, a named pipe with a name that cannot be guessed.
 */
export async function makeSocketPlace(platform: NodeJS.Platform): Promise<SocketPlace> {
  if (platform === 'win32') {
    const pipe = `\\\\.\\pipe\\emporion-${randomUUID()}`
    return { address: { pipe }, path: pipe, remove: () => Promise.resolve() }
  }
  const folder = await mkdtemp(join(tmpdir(), 'emp-'))
  await chmod(folder, 0o700)
  return { address: { host: folder, port: SOCKET_PORT }, path: join(folder, `.s.PGSQL.${SOCKET_PORT}`), remove: () => rm(folder, { recursive: true, force: true }) }
}

/** A connection to a pipe for `pg`, which knows of hosts and ports alone. */
export class PipeSocket extends Socket {
  constructor(private readonly path: string) {
    super()
  }

  override connect(): this {
    return super.connect(this.path)
  }
}
