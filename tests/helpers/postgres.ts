import { spawn, spawnSync } from 'node:child_process'
import { chownSync, mkdirSync, readdirSync } from 'node:fs'
import { once } from 'node:events'
import { join } from 'node:path'
import pg from 'pg'
import { freshFolder } from './folder'

/** A PostgreSQL server of this run's own, as Debian packages it. */
export interface RunningPostgres {
  /** Makes a database as a studio would have it: its user owns it, and may do nothing else. Gives what `DATABASE_URL` is set to. */
  readonly database: (name: string) => Promise<string>
  readonly version: string
  readonly stop: () => Promise<void>
}

const DEBIAN = '/usr/lib/postgresql'
const NOBODY = 65_534

/** Starts one in an empty folder, behind a Unix socket, with words sorted as English readers do rather than by their bytes. */
export async function startPostgres(): Promise<RunningPostgres> {
  const [version] = readdirSync(DEBIAN).sort((a, b) => Number(b) - Number(a))
  if (!version) throw new Error(`There is no PostgreSQL server in ${DEBIAN}.`)
  const programs = join(DEBIAN, version, 'bin')
  const folder = freshFolder()
  const files = join(folder, 'db')
  mkdirSync(files)
  // It refuses to run as root.
  const asNobody = process.getuid?.() === 0 ? { uid: NOBODY, gid: NOBODY } : {}
  if ('uid' in asNobody) for (const path of [folder, files]) chownSync(path, NOBODY, NOBODY)
  const options = { ...asNobody, cwd: folder }
  const made = spawnSync(join(programs, 'initdb'), ['-D', files, '-A', 'trust', '-U', 'keeper', '--encoding=UTF8', '--locale=C.UTF-8', '--locale-provider=icu', '--icu-locale=en-US'], { ...options, encoding: 'utf8' })
  if (made.status !== 0) throw new Error(`No PostgreSQL could be made: ${made.stderr}`)
  const server = spawn(join(programs, 'postgres'), ['-D', files, '-k', folder, '-c', 'listen_addresses=', '-c', 'fsync=off'], { ...options, stdio: 'ignore' })
  const url = (user: string, name: string) => `postgresql://${user}@localhost/${name}?host=${folder}`
  const keeper = await answering(url('keeper', 'postgres'))
  await keeper.query('CREATE ROLE emporion LOGIN')
  return {
    database: async (name) => {
      await keeper.query(`CREATE DATABASE ${name} OWNER emporion`)
      return url('emporion', name)
    },
    version,
    stop: async () => {
      await keeper.end()
      const exit = once(server, 'exit')
      server.kill('SIGINT')
      await exit
    },
  }
}

/** A connection, as soon as the server answers. */
async function answering(url: string): Promise<pg.Client> {
  for (;;) {
    const client = new pg.Client({ connectionString: url })
    const isOpen = await client.connect().then(() => true, () => false)
    if (isOpen) return client
    await new Promise(done => setTimeout(done, 50))
  }
}
