import { spawn, spawnSync } from 'node:child_process'
import { chownSync, mkdirSync, readdirSync } from 'node:fs'
import { once } from 'node:events'
import { join } from 'node:path'
import pg from 'pg'
import { freshFolder } from './folder'

/** A PostgreSQL server of this run's own, as Debian packages it. */
export interface RunningPostgres {
  /** What `DATABASE_URL` is set to. */
  readonly url: string
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
  const made = spawnSync(join(programs, 'initdb'), ['-D', files, '-A', 'trust', '-U', 'emporion', '--encoding=UTF8', '--locale=C.UTF-8', '--locale-provider=icu', '--icu-locale=en-US'], { ...options, encoding: 'utf8' })
  if (made.status !== 0) throw new Error(`No PostgreSQL could be made: ${made.stderr}`)
  const server = spawn(join(programs, 'postgres'), ['-D', files, '-k', folder, '-c', 'listen_addresses=', '-c', 'fsync=off'], { ...options, stdio: 'ignore' })
  const url = `postgresql://emporion@localhost/postgres?host=${folder}`
  await answering(url)
  return {
    url,
    version,
    stop: async () => {
      const exit = once(server, 'exit')
      server.kill('SIGINT')
      await exit
    },
  }
}

async function answering(url: string): Promise<void> {
  for (;;) {
    const client = new pg.Client({ connectionString: url })
    const isOpen = await client.connect().then(() => true, () => false)
    if (isOpen) return client.end()
    await new Promise(done => setTimeout(done, 50))
  }
}
