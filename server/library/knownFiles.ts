import { sql } from 'drizzle-orm'
import { z } from 'zod'
import { FIGURES_VERSION } from '../../core/audio/analysis/figures'
import { READERS_VERSION } from '../../core/audio/decode'
import type { Database } from '../db/open'

/** A file as an earlier scan left it. */
export interface KnownFile {
  readonly id: number
  readonly size: number
  readonly modifiedMs: number
  readonly missing: boolean
  /** Null for a file that could not be read. */
  readonly soundId: number | null
  /** True when its sound was measured by older methods, or it could not be read by older readers. */
  readonly isOutdated: boolean
}

const IDS_A_PART = 50_000

const columnsSchema = z.object({
  id: z.array(z.number()),
  path: z.array(z.string()),
  size: z.array(z.number()),
  modifiedMs: z.array(z.number()),
  missing: z.array(z.boolean()),
  soundId: z.array(z.number().nullable()),
})

/**
 * All that is known of the files of a source, by their paths. The database gives each column of a part as one JSON text:
 * reading the rows one by one takes four times as long.
 */
export async function knownFiles(db: Database, sourceId: number): Promise<Map<string, KnownFile>> {
  const outdated = await outdatedSounds(db, sourceId)
  const unread = await unreadByOlder(db, sourceId)
  const known = new Map<string, KnownFile>()
  const { rows: [ends] } = await db.execute<{ first: number | null, last: number | null }>(sql`
    SELECT min(id) AS first, max(id) AS last FROM files WHERE source_id = ${sourceId}`)
  for (let from = ends?.first ?? 1; from <= (ends?.last ?? 0); from += IDS_A_PART) {
    const { rows: [part] } = await db.execute(sql`
      SELECT coalesce(json_agg(id), '[]') AS "id", coalesce(json_agg(path), '[]') AS "path", coalesce(json_agg(size), '[]') AS "size",
        coalesce(json_agg(modified_ms), '[]') AS "modifiedMs", coalesce(json_agg(missing), '[]') AS "missing", coalesce(json_agg(sound_id), '[]') AS "soundId"
      FROM files WHERE source_id = ${sourceId} AND id >= ${from} AND id < ${from + IDS_A_PART}`)
    const { id, path, size, modifiedMs, missing, soundId } = columnsSchema.parse(part)
    for (let i = 0; i < id.length; i++) {
      const sound = soundId[i] ?? null
      known.set(path[i]!, { id: id[i]!, size: size[i]!, modifiedMs: modifiedMs[i]!, missing: missing[i]!, soundId: sound, isOutdated: sound === null ? unread.has(id[i]!) : outdated.has(sound) })
    }
  }
  return known
}

async function outdatedSounds(db: Database, sourceId: number): Promise<Set<number>> {
  // One look at an index; the list takes a look at every sound.
  const { rows: [oldest] } = await db.execute<{ version: number | null }>(sql`SELECT min(figures_version) AS version FROM sounds`)
  if ((oldest?.version ?? FIGURES_VERSION) >= FIGURES_VERSION) return new Set()
  const { rows: [list] } = await db.execute<{ ids: number[] | null }>(sql`
    SELECT json_agg(id) AS ids FROM sounds s
    WHERE figures_version < ${FIGURES_VERSION} AND EXISTS (SELECT FROM files f WHERE f.sound_id = s.id AND f.source_id = ${sourceId})`)
  return new Set(list?.ids)
}

/** Files that older readers could not read. */
async function unreadByOlder(db: Database, sourceId: number): Promise<Set<number>> {
  const { rows: [list] } = await db.execute<{ ids: number[] | null }>(sql`
    SELECT json_agg(id) AS ids FROM files WHERE source_id = ${sourceId} AND error IS NOT NULL AND readers_version < ${READERS_VERSION}`)
  return new Set(list?.ids)
}
