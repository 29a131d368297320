import { execFile } from 'node:child_process'
import { existsSync } from 'node:fs'
import { mkdir, rename, rm } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { promisify } from 'node:util'
import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres'
import { migrate } from 'drizzle-orm/node-postgres/migrator'
import pg from 'pg'
import { log } from '../base/log'
import { needRoom } from '../base/disk'
import { DatabaseThread } from './databaseThread'
import * as schema from './schema'
import { makeSocketPlace, PipeSocket, type LocalAddress } from './socket'
import { backUp, schemaState } from './upgrade'

export type Database = NodePgDatabase<typeof schema>

/** Where the database answers; can be handed to a worker thread. */
export type DatabaseAddress = LocalAddress | { readonly url: string }

export interface OpenDatabase {
  readonly db: Database
  readonly address: DatabaseAddress
  readonly close: () => Promise<void>
}

export interface DatabaseOptions {
  /** Folder of PGlite's files. */
  readonly folder: string
  readonly migrationsFolder: string
  /** The bundled `pglite.worker`. */
  readonly workerFile: string
  /** A PostgreSQL server to be used in place of PGlite. */
  readonly url?: string
}

const PAGE_CONNECTIONS = 4

/**
 * Opens the database, the one place that does: PGlite in a worker thread behind a private Unix socket, so that no
 * statement holds up the main thread, or the PostgreSQL server of `url`. Creates or updates the schema.
 */
export async function openDatabase(options: DatabaseOptions): Promise<OpenDatabase> {
  let server = await startServer(options)
  const isBackedUpFirst = await needsBackup(server.address, options).catch(async (thrown) => {
    await server.stop()
    throw thrown
  })
  if (isBackedUpFirst) {
    await server.stop()
    await backUp(options.folder)
    server = await startServer(options)
  }
  const { db, close } = connect(server.address, PAGE_CONNECTIONS)
  await migrate(db, { migrationsFolder: options.migrationsFolder })
  return {
    db,
    address: server.address,
    close: async () => {
      await close()
      await server.stop()
    },
  }
}

function startServer(options: DatabaseOptions): Promise<{ address: DatabaseAddress, stop: () => Promise<void> }> {
  return options.url ? Promise.resolve({ address: { url: options.url }, stop: () => Promise.resolve() }) : startPglite(options)
}

/** Whether steps are to be applied to what people already have in PGlite's files. A PostgreSQL server is backed up by who runs it. */
async function needsBackup(address: DatabaseAddress, { migrationsFolder, url }: DatabaseOptions): Promise<boolean> {
  const { db, close } = connect(address, 1)
  try {
    const { applied, pending } = await schemaState(db, migrationsFolder)
    return applied > 0 && pending > 0 && url === undefined
  }
  finally {
    await close()
  }
}

/** Connects to a database that is open already: from a worker thread, say. */
export function connect(address: DatabaseAddress, connections: number): { db: Database, close: () => Promise<void> } {
  const local = { user: 'postgres', database: 'postgres', max: connections }
  const pool = new pg.Pool('url' in address
    ? { connectionString: address.url, max: connections }
    : 'pipe' in address ? { ...local, stream: () => new PipeSocket(address.pipe) } : { ...local, ...address })
  // Without a listener a connection lost while idle would end the process; the next query opens a new one.
  pool.on('error', error => log.error({ err: error }, 'A database connection was lost'))
  // One in the middle of something tells that in the reply to it as well.
  pool.on('connect', client => client.on('error', () => undefined))
  return { db: drizzle(pool, { schema }), close: () => pool.end() }
}

/** Makes PGlite's files, beside their place, so that a start that is broken off makes them anew. */
async function makeDatabase({ folder, workerFile }: DatabaseOptions): Promise<void> {
  const making = `${folder}.making`
  await rm(making, { recursive: true, force: true })
  await needRoom(dirname(folder), 'no database could be made there', 'Nothing was changed.')
  await promisify(execFile)(process.execPath, [join(dirname(workerFile), 'makeDatabase.mjs'), making])
  await rm(folder, { recursive: true, force: true })
  await rename(making, folder)
}

async function startPglite(options: DatabaseOptions): Promise<{ address: DatabaseAddress, stop: () => Promise<void> }> {
  await mkdir(options.folder, { recursive: true })
  if (!existsSync(join(options.folder, 'PG_VERSION'))) await makeDatabase(options)
  const place = await makeSocketPlace(process.platform)
  const thread = new DatabaseThread(options, place.path)
  await thread.start()
  return {
    address: place.address,
    stop: async () => {
      await thread.stop()
      await place.remove()
    },
  }
}

export { schema }
