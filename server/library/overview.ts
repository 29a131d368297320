import { and, asc, eq, gt, isNotNull, sql } from 'drizzle-orm'
import type { Flag } from '../../core/audio/analysis/figures'
import { schema, type Database } from '../db/open'
import { LENGTHS } from './lengths'

const { files, sounds } = schema

const MOST_FLAGGED = 5000

/** How many sounds of each kind there are by how long they sound. */
export interface KindByLength {
  readonly kind: string
  /** One a length of `LENGTHS`, and one for what is longer. */
  readonly counts: readonly number[]
}

/** Counts sounds by the first part of their kind and by length, of the whole library or of a source. `none`: no kind known. */
export async function kindsByLength(db: Database, sourceId?: number): Promise<KindByLength[]> {
  const kind = sql<string>`coalesce(split_part(${sounds.kind}, '.', 1), 'none')`
  const length = sql<number>`width_bucket(coalesce(${sounds.effectiveSeconds}, ${sounds.lengthSeconds})::float8, ARRAY[${sql.raw(LENGTHS.join(', '))}]::float8[])`
  const rows = await db.select({ kind, length: length.mapWith(Number), count: sql`count(*)`.mapWith(Number) }).from(sounds)
    .where(and(gt(sounds.fileCount, 0), sourceId === undefined ? undefined : sql`${sounds.sourceIds} @> ARRAY[${sourceId}]::integer[]`))
    .groupBy(sql`1`, sql`2`)
  const kinds = new Map<string, number[]>()
  for (const row of rows) {
    const counts = kinds.get(row.kind) ?? new Array<number>(LENGTHS.length + 1).fill(0)
    counts[row.length] = row.count
    kinds.set(row.kind, counts)
  }
  const sum = (counts: readonly number[]) => counts.reduce((all, count) => all + count, 0)
  return [...kinds].map(([name, counts]) => ({ kind: name, counts })).sort((a, b) => sum(b.counts) - sum(a.counts) || (a.kind < b.kind ? -1 : 1))
}

/** Files of a source that were there once and are not any more. */
export async function listMissing(db: Database, sourceId: number): Promise<{ path: string }[]> {
  return db.select({ path: files.path }).from(files).where(and(eq(files.sourceId, sourceId), eq(files.missing, true))).orderBy(asc(files.path))
}

/** Takes files that are missing off the list of a source. What was set of their sounds stays, and is there again when they come back. Gives their number. */
export async function forgetMissing(db: Database, sourceId: number): Promise<number> {
  const { rowCount } = await db.delete(files).where(and(eq(files.sourceId, sourceId), eq(files.missing, true)))
  return rowCount ?? 0
}

/** Strokes of one instrument. */
export interface Family {
  readonly family: string
  readonly files: number
  /** The path of one of them, and the number of a sound among them. */
  readonly example: string
  readonly soundId: number
}

/** Strokes of one instrument: files of a source whose names differ in nothing but velocity and take. */
export async function listFamilies(db: Database, sourceId: number, limit: number): Promise<Family[]> {
  return db.select({ family: sql<string>`${files.family}`, files: sql`count(*)`.mapWith(Number), example: sql<string>`min(${files.path})`, soundId: sql`min(${files.soundId})`.mapWith(Number) }).from(files)
    .where(and(eq(files.sourceId, sourceId), eq(files.missing, false), isNotNull(files.family), isNotNull(files.soundId)))
    .groupBy(files.family).having(sql`count(*) > 1`).orderBy(sql`2 desc`, sql`1`).limit(limit)
}

/** A file with something about it that is worth knowing before it is used. */
export interface FlaggedFile {
  readonly path: string
  readonly flags: readonly Flag[]
  readonly warnings: readonly string[]
}

/** Files of a source that are silent, clipped, hold several hits, are cut short and the like. A loop is as it should be. */
export async function listFlagged(db: Database, sourceId: number): Promise<FlaggedFile[]> {
  return db.select({ path: files.path, flags: sounds.flags, warnings: sounds.warnings }).from(files).innerJoin(sounds, eq(files.soundId, sounds.id))
    .where(and(eq(files.sourceId, sourceId), eq(files.missing, false), sql`(${sounds.warnings} <> '[]'::jsonb or array_remove(array_remove(${sounds.flags}, 'loop'), case when 'loop' = any(${sounds.flags}) then 'several-hits' end) <> '{}')`))
    .orderBy(asc(files.path)).limit(MOST_FLAGGED)
}
