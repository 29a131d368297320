import { createHash } from 'node:crypto'
import { readFile, rename, rm, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { deserialize, serialize } from 'node:v8'
import { sql } from 'drizzle-orm'
import { Catalogue, type SavedCatalogue } from '../../../core/search/catalogue/catalogue'
import { columnMeaning } from '../../../core/search/catalogue/columnMeaning'
import { Vectors, type SavedVectors } from '../../../core/search/catalogue/vectors'
import type { Database } from '../../db/open'
import { COLUMNS } from './rows'

/** Whatever has another meaning now, or is read from the database otherwise, is not taken up. */
const meaning = createHash('sha256').update(columnMeaning()).update(COLUMNS.join()).update(Catalogue.toString()).update(Vectors.toString()).digest('hex')

/** The catalogue and the vectors as they were at a revision of one database. */
interface Snapshot {
  readonly meaning: string
  readonly database: string
  readonly revision: number
  readonly catalogue: SavedCatalogue
  readonly vectors: SavedVectors
}

const fileIn = (cacheDir: string) => join(cacheDir, 'catalogue.bin')

/**
 * The catalogue as it was written down last, so that opening a large library need not read every row; undefined where there is
 * none, or none of this database. Whatever has changed since is read from the database as ever.
 */
export async function readSnapshot(cacheDir: string, db: Database): Promise<Omit<Snapshot, 'meaning' | 'database'> | undefined> {
  try {
    const bytes = await readFile(fileIn(cacheDir))
    const found = deserialize(bytes) as Snapshot
    if (found.meaning !== meaning || found.database !== await nameOf(db) || found.revision > await lastRevision(db)) return undefined
    return found
  }
  catch {
    return undefined
  }
}

/** Writes both down, in place of what was written before. What can't be written is only slower to open. */
export async function writeSnapshot(cacheDir: string, db: Database, revision: number, saved: Pick<Snapshot, 'catalogue' | 'vectors'>): Promise<void> {
  const snapshot: Snapshot = { meaning, database: await nameOf(db), revision, ...saved }
  const part = `${fileIn(cacheDir)}.part`
  await writeFile(part, serialize(snapshot), { flush: true }).then(() => rename(part, fileIn(cacheDir)), () => rm(part, { force: true }))
}

/** Every PostgreSQL cluster has a number of its own (PostgreSQL 15 documentation, 9.27.6), and so has every database in it (53.15). */
async function nameOf(db: Database): Promise<string> {
  const { rows } = await db.execute<{ name: string }>(sql`SELECT concat_ws('/', system_identifier, oid) AS name FROM pg_control_system(), pg_database WHERE datname = current_database()`)
  return rows[0]?.name ?? ''
}

async function lastRevision(db: Database): Promise<number> {
  const { rows } = await db.execute<{ last: string }>(sql`SELECT last_value AS last FROM sounds_revisions`)
  return Number(rows[0]?.last ?? 0)
}
