import { createHash } from 'node:crypto'
import { pipeline } from 'node:stream/promises'
import { sql } from 'drizzle-orm'
import { naturally } from '../db/natural'
import type { Database } from '../db/open'
import type { StudioConfig } from '../base/config'
import { streamUserFile } from '../base/opener'
import type { DuplicateFile, Duplicates } from '../../contract/library'
import type { Stretch } from '../../contract/sources'

/** Files of a group that are named: one of silence may lie in every pack. */
const MOST_NAMED = 20

interface GroupRow extends Record<string, unknown> {
  readonly hash: string
  readonly name: string
  readonly files: DuplicateFile[]
  readonly total: number
  readonly wasted: number
}

/** Places of sounds, each path on the disk once however many sources hold it. */
const PLACES = sql`
  SELECT DISTINCT ON (src.path || '/' || f.path) f.sound_id, src.path || '/' || f.path AS path, f.size
  FROM files f JOIN sources src ON src.id = f.source_id
  WHERE f.sound_id IS NOT NULL AND NOT f.missing`

const PLACE_ORDER = naturally(sql`path`)

/** Sounds that lie in more than one file, with the bytes that this wastes. */
export async function findDuplicates(db: Database, config: StudioConfig, { limit, offset }: Stretch): Promise<Duplicates> {
  const groups = sql`
    SELECT sound_id, count(*) AS count, sum(size) - max(size) AS wasted FROM (${PLACES}) AS places GROUP BY sound_id HAVING count(*) > 1`
  const sums = await db.execute<{ groups: string, files: string | null, wasted: string | null }>(sql`SELECT count(*) AS groups, sum(count) AS files, sum(wasted) AS wasted FROM (${groups}) AS g`)
  const rows = await db.execute<GroupRow>(sql`
    SELECT s.hash, s.name, g.wasted::float8 AS wasted, g.count::integer AS total, p.files
    FROM (SELECT * FROM (${groups}) AS all_groups ORDER BY wasted DESC, sound_id LIMIT ${limit} OFFSET ${offset}) AS g
    JOIN sounds s ON s.id = g.sound_id CROSS JOIN LATERAL (
      SELECT jsonb_agg(jsonb_build_object('path', path, 'size', size) ORDER BY ${PLACE_ORDER}) AS files
      FROM (SELECT path, size FROM (${PLACES} AND f.sound_id = g.sound_id) AS own ORDER BY ${PLACE_ORDER} LIMIT ${MOST_NAMED}) AS first) AS p
    ORDER BY g.wasted DESC, s.id`)
  const sum = sums.rows[0]
  return {
    groups: Number(sum?.groups ?? 0),
    files: Number(sum?.files ?? 0),
    wastedBytes: Number(sum?.wasted ?? 0),
    shown: await Promise.all(rows.rows.map(async row => ({ hash: row.hash, name: row.name, files: row.files, total: row.total, wastedBytes: row.wasted, identical: await identicalFiles(config, row.files) }))),
  }
}

/** Which files of a group are the same to the last byte: groups of paths; a path alone differs in container or tags. */
export async function identicalFiles(config: StudioConfig, files: readonly DuplicateFile[]): Promise<string[][]> {
  const byContent = new Map<string, string[]>()
  for (const file of files) {
    const twins = files.some(other => other !== file && other.size === file.size)
    const content = twins ? await contentHash(config, file.path).catch(() => file.path) : file.path
    byContent.set(content, [...byContent.get(content) ?? [], file.path])
  }
  return [...byContent.values()]
}

async function contentHash(config: StudioConfig, path: string): Promise<string> {
  const hash = createHash('sha256')
  await pipeline((await streamUserFile(path, config.roots)).stream, hash)
  return hash.digest('hex')
}
