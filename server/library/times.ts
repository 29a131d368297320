import { inArray } from 'drizzle-orm'
import type { SoundTimes } from '../../core/kit/trims'
import { schema, type Database } from '../db/open'

const { sounds } = schema

/** The times of sounds that were measured, by the names of their audio. */
export async function soundTimes(db: Database, hashes: readonly string[]): Promise<Record<string, SoundTimes>> {
  if (hashes.length === 0) return {}
  const rows = await db.select({ hash: sounds.hash, figures: sounds.figures }).from(sounds).where(inArray(sounds.hash, [...hashes]))
  return Object.fromEntries(rows.flatMap(({ hash, figures }) => {
    const timing = figures?.timing
    return timing ? [[hash, { leadSeconds: timing.leadSeconds, endSeconds: timing.leadSeconds + timing.effectiveSeconds, hits: figures.hits }] as const] : []
  }))
}
