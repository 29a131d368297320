import { sql } from 'drizzle-orm'
import type { Database } from '../db/open'

/** Any number: "VAULT" in ASCII. */
const KEY = 370_206_855_252

/**
 * Does something with the names of the vault while nobody else does, in whatever thread: to look whether a name is free and then to
 * take it are two steps. The work must be short and must not ask the database, which is held meanwhile.
 */
export function withVaultNames<T>(db: Database, work: () => Promise<T>): Promise<T> {
  return db.transaction(async (tx) => {
    await tx.execute(sql`SELECT pg_advisory_xact_lock(${KEY})`)
    return work()
  })
}
