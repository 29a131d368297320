import { and, gt, sql } from 'drizzle-orm'
import { schema, type Database } from '../db/open'
import { type KindByLength, LENGTHS } from '../../contract/library'

const { sounds } = schema

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
