import { eq, sql } from 'drizzle-orm'
import { parsePattern } from '../../core/groove/document'
import { shippedId, SHIPPED_PATTERNS } from '../../core/groove/shipped'
import { patternFromSteps } from '../../core/groove/steps'
import { schema, type Database } from '../db/open'
import { summaryOf } from './summary'

const { patterns } = schema

/** Brings the patterns that come with the application into the library, as this version has them. Favourites and tags of a person stay. */
export async function shipPatterns(db: Database): Promise<void> {
  const rows = SHIPPED_PATTERNS.map((written) => {
    const pattern = patternFromSteps(written)
    return { id: shippedId(written), pattern, summary: summaryOf(pattern), folder: written.folder, tags: [...written.tags], isShipped: true, revision: 1 }
  })
  const known = await db.select({ id: patterns.id, pattern: patterns.pattern }).from(patterns).where(eq(patterns.isShipped, true))
  const same = new Map(known.map(row => [row.id, JSON.stringify(parsePattern(row.pattern))]))
  const other = rows.filter(row => same.get(row.id) !== JSON.stringify(parsePattern(row.pattern)))
  if (other.length === 0) return
  await db.insert(patterns).values(other).onConflictDoUpdate({
    target: patterns.id,
    set: { pattern: sql`excluded.pattern`, summary: sql`excluded.summary`, revision: sql`${patterns.revision} + 1` },
    setWhere: eq(patterns.isShipped, true),
  })
}
