import { randomUUID } from 'node:crypto'
import { and, desc, eq, sql } from 'drizzle-orm'
import { EmporionError } from '../../core/errors'
import type { OwnPattern } from '../../core/formats/package/kitFile'
import { applyDifference, type Difference } from '../../core/document/difference'
import { emptyPattern, parsePattern, type Pattern } from '../../core/groove/document'
import { naturally } from '../db/natural'
import { schema, type Database } from '../db/open'
import { summaryOf } from './summary'
import type { PatternRow, PatternView } from '../../contract/patterns'

const { patternRevisions, patterns, presets } = schema

/** The folder of patterns that came with presets. */
const WITH_PRESETS = 'With presets'
/** An edit after so long a pause keeps the state before it. */
const PAUSE_MS = 10 * 60_000
const MOST_REVISIONS = 100

type Row = typeof patterns.$inferSelect

/** All patterns, by folder and name. */
export async function listPatterns(db: Database): Promise<PatternRow[]> {
  const [rows, users] = await Promise.all([
    db.select({ id: patterns.id, summary: patterns.summary, folder: patterns.folder, tags: patterns.tags, favourite: patterns.favourite, isShipped: patterns.isShipped, updatedAt: patterns.updatedAt })
      .from(patterns).orderBy(naturally(patterns.folder), naturally(sql`(${patterns.summary}->>'name')`)),
    db.select({ name: presets.name, patternId: presets.patternId }).from(presets),
  ])
  return rows.map(({ summary, updatedAt, ...row }) => ({ ...row, ...summary, updatedAt: updatedAt.toISOString(), usedIn: users.filter(user => user.patternId === row.id).map(user => user.name) }))
}

export async function readPattern(db: Database, id: string): Promise<PatternView> {
  return view(await rowOf(db, id))
}

async function rowOf(db: Database, id: string): Promise<Row> {
  const [row] = await db.select().from(patterns).where(eq(patterns.id, id))
  if (!row) throw new EmporionError('not-found', { what: 'This pattern is no longer there.', next: 'Choose another one.' })
  return row
}

export async function createPattern(db: Database, pattern: Pattern = emptyPattern('New pattern'), { folder = 'Mine', tags = [], id = randomUUID() }: { readonly folder?: string, readonly tags?: readonly string[], readonly id?: string } = {}): Promise<PatternView> {
  const [row] = await db.insert(patterns).values({ id, pattern, summary: summaryOf(pattern), folder, tags: [...tags], revision: 1 }).returning()
  return view(row!)
}

/**
 * Saves an edit by what it changed. It must build on the revision that is stored, so that two tabs never overwrite each other
 * unseen. After a pause the state before it is kept as a revision.
 *
 * @throws EmporionError `conflict` when it was changed elsewhere; `refused` for one that came with the application; `invalid`
 *   when what comes of it is no whole pattern
 */
export async function savePattern(db: Database, id: string, difference: Difference, baseRevision: number): Promise<number> {
  const base = await rowOf(db, id)
  if (base.isShipped) throw new EmporionError('refused', { what: `"${base.summary.name}" came with Emporion and is not changed.`, next: 'Make a copy of it.' })
  if (base.revision === baseRevision) {
    const pattern = parsePattern(applyDifference(base.pattern, difference))
    if (Date.now() - base.updatedAt.getTime() > PAUSE_MS) await keepRevision(db, id)
    const [row] = await db.update(patterns).set({ pattern, summary: summaryOf(pattern), revision: baseRevision + 1, updatedAt: new Date() })
      .where(and(eq(patterns.id, id), eq(patterns.revision, baseRevision))).returning({ revision: patterns.revision })
    if (row) return row.revision
  }
  throw new EmporionError('conflict', { what: `The pattern "${base.summary.name}" was changed elsewhere in the meantime.`, kept: 'Both versions are kept.' })
}

/** Sets what a person says of a pattern: its folder, tags, or that it is a favourite. */
export async function setPatternDetails(db: Database, id: string, { tags, ...details }: { readonly folder?: string, readonly tags?: readonly string[], readonly favourite?: boolean }): Promise<void> {
  const [row] = await db.update(patterns).set({ ...details, tags: tags && [...tags] }).where(eq(patterns.id, id)).returning({ id: patterns.id })
  if (!row) await rowOf(db, id)
}

export async function deletePattern(db: Database, id: string): Promise<void> {
  const { isShipped, summary } = await rowOf(db, id)
  if (isShipped) throw new EmporionError('refused', { what: `"${summary.name}" came with Emporion and is not deleted.`, next: 'Narrow the list by folder or by favourites.' })
  await db.delete(patterns).where(eq(patterns.id, id))
}

/** Keeps the state that a pattern is in now. */
export async function keepRevision(db: Database, id: string): Promise<number> {
  const row = await rowOf(db, id)
  await db.insert(patternRevisions).values({ patternId: id, number: row.revision, pattern: row.pattern, savedAt: row.updatedAt }).onConflictDoNothing()
  await db.delete(patternRevisions).where(and(eq(patternRevisions.patternId, id), sql`${patternRevisions.number} not in (select number from pattern_revisions where pattern_id = ${id} order by number desc limit ${MOST_REVISIONS})`))
  return row.revision
}

/** The states of a pattern that were kept, the latest first. */
export async function listRevisions(db: Database, id: string): Promise<{ number: number, savedAt: string, pattern: Pattern }[]> {
  const rows = await db.select().from(patternRevisions).where(eq(patternRevisions.patternId, id)).orderBy(desc(patternRevisions.number))
  return rows.map(({ number, savedAt, pattern }) => ({ number, savedAt: savedAt.toISOString(), pattern: parsePattern(pattern) }))
}

/** Makes the pattern that was stored with a preset one of the library, where it is not there as it was stored. Gives its id. */
export async function takePresetPattern(db: Database, { id, document }: OwnPattern, preset: string): Promise<string> {
  const [known] = await db.select().from(patterns).where(eq(patterns.id, id))
  if (known && JSON.stringify(parsePattern(known.pattern)) === JSON.stringify(document)) return id
  const made = await createPattern(db, document, { folder: WITH_PRESETS, tags: [preset.toLowerCase()], ...(known ? {} : { id }) })
  return made.id
}

function view({ id, pattern, revision, isShipped, folder }: Row): PatternView {
  return { id, pattern: parsePattern(pattern), revision, isShipped, folder }
}
