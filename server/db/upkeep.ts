import { sql } from 'drizzle-orm'
import type { Database } from './open'

/**
 * To be called after much was written: PGlite has nobody that does it by itself. Without it a list can't be read off an index
 * alone, and the planner takes a source for a handful of files.
 */
export async function tidyLibrary(db: Database): Promise<void> {
  await db.execute(sql`VACUUM (ANALYZE) sounds (kind, file_count, figures_version, favourite)`)
  await db.execute(sql`VACUUM (ANALYZE) files`)
}

/** The same after a scan, where sounds are a tenth more than they were then: for a handful of new files nobody should have to wait. */
export async function tidyWhenGrown(db: Database): Promise<void> {
  const { rows: [growth] } = await db.execute<{ grown: boolean }>(sql`
    SELECT (SELECT coalesce(max(id), 0) FROM sounds) > 1.1 * greatest(reltuples, 0) AS grown FROM pg_class WHERE oid = 'sounds'::regclass`)
  if (growth?.grown) await tidyLibrary(db)
}
