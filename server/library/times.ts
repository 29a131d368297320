import { inArray, or, sql } from 'drizzle-orm'
import type { SoundTimes } from '../../core/kit/trims'
import { schema, type Database } from '../db/open'

const { sounds } = schema

/** The times of sounds that were measured, by the names of their audio. */
export async function soundTimes(db: Database, hashes: readonly string[]): Promise<Record<string, SoundTimes>> {
  if (hashes.length === 0) return {}
  const rows = await db.select({ hash: sql<string>`CASE WHEN ${inArray(sounds.hash, [...hashes])} THEN ${sounds.hash} ELSE ${sounds.formerHash} END`, figures: sounds.figures }).from(sounds)
    .where(or(inArray(sounds.hash, [...hashes]), inArray(sounds.formerHash, [...hashes])))
  return Object.fromEntries(rows.flatMap(({ hash, figures }) => {
    const timing = figures?.timing
    return timing ? [[hash, { leadSeconds: timing.leadSeconds, endSeconds: timing.leadSeconds + timing.effectiveSeconds, hits: figures.hits }] as const] : []
  }))
}
