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
