import { aliasedTable, and, desc, eq, gt, or } from 'drizzle-orm'
import { schema, type Database } from '../db/open'

const { nearDuplicates, sounds } = schema

const MOST_SHOWN = 500

/** Two sounds that are one recording. */
export interface NearPair {
  readonly first: { readonly id: number, readonly name: string, readonly folder: string }
  readonly second: { readonly id: number, readonly name: string, readonly folder: string }
  readonly correlation: number
  readonly levelDb: number
}

/** What the last comparison found, the surest first. */
export async function listNear(db: Database): Promise<NearPair[]> {
  const first = aliasedTable(sounds, 'first')
  const second = aliasedTable(sounds, 'second')
  return db.select({
    first: { id: first.id, name: first.name, folder: first.folder },
    second: { id: second.id, name: second.name, folder: second.folder },
    correlation: nearDuplicates.correlation, levelDb: nearDuplicates.levelDb,
  }).from(nearDuplicates).innerJoin(first, eq(nearDuplicates.firstId, first.id)).innerJoin(second, eq(nearDuplicates.secondId, second.id))
    .where(and(gt(first.fileCount, 0), gt(second.fileCount, 0))).orderBy(desc(nearDuplicates.correlation)).limit(MOST_SHOWN)
}

/** The sounds that are the same recording as one. */
export async function nearOf(db: Database, soundId: number): Promise<{ name: string, folder: string, correlation: number }[]> {
  const other = aliasedTable(sounds, 'other')
  return db.select({ name: other.name, folder: other.folder, correlation: nearDuplicates.correlation }).from(nearDuplicates)
    .innerJoin(other, or(and(eq(nearDuplicates.firstId, soundId), eq(other.id, nearDuplicates.secondId)), and(eq(nearDuplicates.secondId, soundId), eq(other.id, nearDuplicates.firstId))))
    .where(gt(other.fileCount, 0)).orderBy(desc(nearDuplicates.correlation)).limit(20)
}
