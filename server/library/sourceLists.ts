import { and, asc, count, eq, gt, isNotNull, sql, type SQL } from 'drizzle-orm'
import type { Flag } from '../../core/audio/analysis/figures'
import { naturally } from '../db/natural'
import type { Family, Flagged, Listed, MissingFile, Stretch, UnreadableFile } from '../../contract/sources'
import { schema, type Database } from '../db/open'

const { files, sounds } = schema

const LINES_A_PART = 5000

const isMissing = (sourceId: number) => and(eq(files.sourceId, sourceId), eq(files.missing, true))!
const isUnreadable = (sourceId: number) => and(eq(files.sourceId, sourceId), isNotNull(files.error), eq(files.missing, false))!

/** Files of a source that were there once and are not any more. */
export async function listMissing(db: Database, sourceId: number, { limit, offset }: Stretch): Promise<Listed<MissingFile>> {
  return {
    total: await db.$count(files, isMissing(sourceId)),
    shown: await db.select({ path: files.path }).from(files).where(isMissing(sourceId)).orderBy(naturally(files.path)).limit(limit).offset(offset),
  }
}

/** What could not be read in a source, and why. */
export async function listUnreadable(db: Database, sourceId: number, { limit, offset }: Stretch): Promise<Listed<UnreadableFile>> {
  return {
    total: await db.$count(files, isUnreadable(sourceId)),
    shown: await db.select({ path: files.path, reason: sql<string>`${files.error}` }).from(files).where(isUnreadable(sourceId)).orderBy(naturally(files.path)).limit(limit).offset(offset),
  }
}

/** All that is missing in a source, as lines of text, some thousand at a time, in the order in which they were found. */
export function missingLines(db: Database, sourceId: number): AsyncGenerator<string> {
  return linesOf(db, isMissing(sourceId), ({ path }) => path)
}

/** All that could not be read in a source, likewise: path and reason. */
export function unreadableLines(db: Database, sourceId: number): AsyncGenerator<string> {
  return linesOf(db, isUnreadable(sourceId), ({ path, error }) => `${path}\t${error}`)
}

async function* linesOf(db: Database, which: SQL, line: (row: { path: string, error: string | null }) => string): AsyncGenerator<string> {
  let after = 0
  for (;;) {
    const rows = await db.select({ id: files.id, path: files.path, error: files.error }).from(files).where(and(which, gt(files.id, after))).orderBy(asc(files.id)).limit(LINES_A_PART)
    const last = rows.at(-1)
    if (!last) return
    after = last.id
    yield rows.map(row => `${line(row)}\n`).join('')
  }
}

/** Takes files that are missing off the list of a source. What was set of their sounds stays, and is there again when they come back. Gives their number. */
export async function forgetMissing(db: Database, sourceId: number): Promise<number> {
  const { rowCount } = await db.delete(files).where(isMissing(sourceId))
  return rowCount ?? 0
}

/** Files of a source that are silent, clipped, hold several hits, are cut short and the like. */
export async function listFlagged(db: Database, sourceId: number, { limit, offset }: Stretch): Promise<Flagged> {
  // Several hits are what a loop is made of.
  const worth = sql`array_remove(array_remove(${sounds.flags}, 'loop'), case when 'loop' = any(${sounds.flags}) then 'several-hits' end)`
  const isDamaged = sql`${sounds.warnings} <> '[]'::jsonb`
  const isFlagged = and(eq(files.sourceId, sourceId), eq(files.missing, false), sql`(${isDamaged} or ${worth} <> '{}')`)
  const flagged = db.select({ flag: sql<Flag | 'damaged'>`unnest(${worth} || case when ${isDamaged} then '{damaged}'::text[] else '{}' end)`.as('said') })
    .from(files).innerJoin(sounds, eq(files.soundId, sounds.id)).where(isFlagged).as('flagged')
  const [sum] = await db.select({ total: count() }).from(files).innerJoin(sounds, eq(files.soundId, sounds.id)).where(isFlagged)
  return {
    total: sum?.total ?? 0,
    counts: Object.fromEntries((await db.select({ flag: flagged.flag, files: count() }).from(flagged).groupBy(flagged.flag)).map(row => [row.flag, row.files])),
    shown: await db.select({ path: files.path, flags: sounds.flags, warnings: sounds.warnings }).from(files).innerJoin(sounds, eq(files.soundId, sounds.id))
      .where(isFlagged).orderBy(naturally(files.path)).limit(limit).offset(offset),
  }
}

/** Strokes of one instrument: files of a source whose names differ in nothing but velocity and take. Those of most strokes first. */
export async function listFamilies(db: Database, sourceId: number, { limit, offset }: Stretch): Promise<Listed<Family>> {
  const families = db.select({ family: sql<string>`${files.family}`.as('family'), strokes: count().as('strokes'), example: sql<string>`min(${files.path} COLLATE "C")`.as('example'), soundId: sql<number>`min(${files.soundId})`.as('sound_id') }).from(files)
    .where(and(eq(files.sourceId, sourceId), eq(files.missing, false), isNotNull(files.family), isNotNull(files.soundId)))
    .groupBy(files.family).having(sql`count(*) > 1`).as('families')
  return {
    total: await db.$count(families),
    shown: await db.select({ family: families.family, files: families.strokes, example: families.example, soundId: families.soundId }).from(families)
      .orderBy(sql`${families.strokes} desc`, naturally(families.family)).limit(limit).offset(offset),
  }
}
