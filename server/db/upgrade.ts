import { cp, rename, rm } from 'node:fs/promises'
import { dirname } from 'node:path'
import { sql } from 'drizzle-orm'
import type { NodePgDatabase } from 'drizzle-orm/node-postgres'
import { readMigrationFiles } from 'drizzle-orm/migrator'
import { EmporionError } from '../../core/errors'
import { needRoom } from '../base/disk'

/** How the schema of a database stands to the one that this version knows. */
export interface SchemaState {
  /** Steps that were applied; 0 in a new database. */
  readonly applied: number
  /** Steps of this version that are still to be applied. */
  readonly pending: number
}

/**
 * Compares what was applied with what this version knows.
 *
 * @throws EmporionError `unsupported` when a newer Emporion has applied steps that this one does not know
 */
export async function schemaState(db: NodePgDatabase<Record<string, unknown>>, migrationsFolder: string): Promise<SchemaState> {
  const known = readMigrationFiles({ migrationsFolder })
  const { rows: [table] } = await db.execute<{ is_there: boolean }>(sql`SELECT to_regclass('drizzle.__drizzle_migrations') IS NOT NULL AS is_there`)
  if (!table?.is_there) return { applied: 0, pending: known.length }
  const { rows } = await db.execute<{ created_at: string }>(sql`SELECT created_at::text FROM drizzle.__drizzle_migrations`)
  const newest = Math.max(0, ...rows.map(row => Number(row.created_at)))
  const latest = known.at(-1)?.folderMillis ?? 0
  if (newest > latest) {
    throw new EmporionError('unsupported', {
      what: 'The data folder was last used by a newer Emporion, whose database this version does not know.',
      kept: 'Nothing was changed.',
      next: 'Start the newer version, or this one with another folder: --data DIR.',
    })
  }
  return { applied: rows.length, pending: known.filter(({ folderMillis }) => folderMillis > newest).length }
}

/** Where the files of a database are kept as they were before an update. */
export function backupFolder(folder: string): string {
  return `${folder}.before-update`
}

/**
 * Copies the files of a database that is closed, beside it. The copy is whole or is not there; the one of the update before goes.
 *
 * @throws EmporionError `disk-full` where there is no room
 */
export async function backUp(folder: string): Promise<void> {
  const target = backupFolder(folder)
  const making = `${target}.making`
  await needRoom(dirname(folder), 'the database could not be copied before its update', 'Nothing was changed.')
  await rm(making, { recursive: true, force: true })
  await cp(folder, making, { recursive: true })
  await rm(target, { recursive: true, force: true })
  await rename(making, target)
}
