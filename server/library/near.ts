import { aliasedTable, and, desc, eq, gt, or, sql } from 'drizzle-orm'
import { schema, type Database } from '../db/open'
import { soundRows } from './search'
import type { NearGroups } from '../../contract/library'
import type { Listed } from '../../contract/sources'

const { nearDuplicates, sounds } = schema

/** Sounds that are told of beside one that is the same recording. */
const MOST_SHOWN = 12

/** Sounds of a group that are named; a family of strokes may have a hundred. */
const MOST_NAMED = 6

/** What the last comparison found: pairs of sounds that are still there, and of what group they are. */
const PAIRS = sql`
  SELECT n.group_id, n.first_id, n.second_id, abs(n.correlation) AS fit, n.strokes FROM near_duplicates n
  JOIN sounds a ON a.id = n.first_id AND a.file_count > 0 JOIN sounds b ON b.id = n.second_id AND b.file_count > 0`

/**
 * One window of what the last comparison found.
 *
 * @param withStrokes whether groups are shown as well that are nothing but strokes of one family
 */
export async function listNear(db: Database, limit: number, offset: number, withStrokes: boolean): Promise<NearGroups> {
  const { rows: counts } = await db.execute<{ strokes: boolean, count: number }>(sql`
    SELECT strokes, count(*)::integer AS count FROM (SELECT bool_and(strokes) AS strokes FROM (${PAIRS}) AS p GROUP BY group_id) AS g GROUP BY strokes`)
  const { rows: groups } = await db.execute<{ id: number, least: number, best: number, total: number, named: number[] }>(sql`
    SELECT g.*, m.total, m.named FROM (
      SELECT group_id AS id, min(fit)::float8 AS least, max(fit)::float8 AS best FROM (${PAIRS}) AS p GROUP BY group_id
      HAVING ${withStrokes} OR NOT bool_and(strokes) ORDER BY max(fit) DESC, group_id LIMIT ${limit} OFFSET ${offset}) AS g
    CROSS JOIN LATERAL (
      SELECT count(*)::integer AS total, (array_agg(s.id ORDER BY s.folder, s.sort_key, s.id))[1:${MOST_NAMED}] AS named FROM sounds s WHERE s.id IN (
        SELECT unnest(ARRAY[first_id, second_id]) FROM (${PAIRS}) AS p WHERE group_id = g.id)) AS m
    ORDER BY g.best DESC, g.id`)
  const rows = new Map((await soundRows(db, groups.flatMap(group => group.named))).map(row => [row.id, row]))
  const countOf = (strokes: boolean) => counts.find(entry => entry.strokes === strokes)?.count ?? 0
  return {
    others: countOf(false),
    strokes: countOf(true),
    shown: groups.map(({ named, ...group }) => ({ ...group, sounds: named.flatMap(id => rows.get(id) ?? []) })),
  }
}

/** The sounds that are the same recording as one, with the level of each over it. */
export async function nearOf(db: Database, soundId: number): Promise<Listed<{ name: string, folder: string, correlation: number, levelDb: number }>> {
  const other = aliasedTable(sounds, 'other')
  const all = await db.select({
    name: other.name, folder: other.folder, correlation: nearDuplicates.correlation,
    levelDb: sql<number>`CASE WHEN ${nearDuplicates.firstId} = ${soundId} THEN ${nearDuplicates.levelDb} ELSE -${nearDuplicates.levelDb} END`,
  }).from(nearDuplicates)
    .innerJoin(other, or(and(eq(nearDuplicates.firstId, soundId), eq(other.id, nearDuplicates.secondId)), and(eq(nearDuplicates.secondId, soundId), eq(other.id, nearDuplicates.firstId))))
    .where(gt(other.fileCount, 0)).orderBy(desc(nearDuplicates.correlation), other.id)
  return { total: all.length, shown: all.slice(0, MOST_SHOWN) }
}
