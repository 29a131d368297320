import { and, asc, count, desc, eq, gt, inArray, sql } from 'drizzle-orm'
import { EmporionError } from '../../core/errors'
import { naturally } from '../db/natural'
import { schema, type Database } from '../db/open'
import type { Mark } from '../db/mark'
import type { MarkEdit, MarkPatch } from '../../contract/marks'
import { refreshSounds } from './record'

const { handEdits, sounds } = schema

/** More than so many take a while: they are set by a job, which shows how far it is and can be cancelled. */
export const MOST_AT_ONCE = 1500
const STEPS_KEPT = 200
/** Marks that all steps together may hold. */
const MARKS_KEPT = 600_000
const PART = 500

/** Is told how many of how many are done, and may throw to end the work between two parts. */
export type EachPart = (done: number, total: number) => void

/**
 * Sets what a person says of sounds, as one step that can be undone. Each part is whole by itself, so that it takes the
 * database for a short while only, and that what was done before a crash can be undone. Gives how many have changed.
 */
export async function setMarks(db: Database, patch: MarkPatch, title: string, each: EachPart = () => undefined): Promise<MarkEdit> {
  const step = await beginStep(db)
  let count = 0
  for (const [i, part] of parts(patch.ids).entries()) {
    each(i * PART, patch.ids.length)
    const before = await marksOf(db, part)
    const changed = before.map(mark => [mark, patched(mark, patch)] as const).filter(([was, is]) => JSON.stringify(was) !== JSON.stringify(is))
    await applyPart(db, step, changed.map(([was]) => was), changed.map(([, is]) => is), title)
    count += changed.length
  }
  await endStep(db)
  return { title, count }
}

/** Writes marks as one step that can be undone. */
export async function applyMarks(db: Database, before: readonly Mark[], after: readonly Mark[], title: string): Promise<MarkEdit> {
  const step = await beginStep(db)
  const was = parts(before)
  for (const [i, part] of parts(after).entries()) await applyPart(db, step, was[i]!, part, title)
  await endStep(db)
  return { title, count: after.length }
}

/** The step that undoing, or redoing, would take next; undefined when there is none. */
export async function nextStep(db: Database, redo: boolean): Promise<MarkEdit | undefined> {
  const [next] = await db.select({ title: sql<string>`min(${handEdits.title})`, count: sql`sum(${handEdits.count})`.mapWith(Number) }).from(handEdits)
    .where(eq(handEdits.undone, redo)).groupBy(handEdits.step).orderBy(redo ? asc(handEdits.step) : desc(handEdits.step)).limit(1)
  return next
}

/** Why there is no step to take. */
export function whyNoStep(redo: boolean): string {
  return redo ? 'There is nothing to do again.' : 'There is nothing to undo: nothing has been set by hand yet.'
}

/** Takes the last step back. @throws EmporionError `not-found` when there is none */
export function undoMarks(db: Database, each?: EachPart): Promise<MarkEdit> {
  return takeStep(db, false, each)
}

/** Does again what was taken back last. @throws EmporionError `not-found` when there is none */
export function redoMarks(db: Database, each?: EachPart): Promise<MarkEdit> {
  return takeStep(db, true, each)
}

async function takeStep(db: Database, redo: boolean, each: EachPart = () => undefined): Promise<MarkEdit> {
  const turned = await nextStep(db, redo)
  if (!turned) throw new EmporionError('not-found', whyNoStep(redo))
  const [first] = await db.select({ step: handEdits.step }).from(handEdits).where(eq(handEdits.undone, redo)).orderBy(redo ? asc(handEdits.step) : desc(handEdits.step)).limit(1)
  for (let done = 0; ;) {
    each(done, turned.count)
    const [part] = await db.select().from(handEdits).where(and(eq(handEdits.step, first?.step ?? 0), eq(handEdits.undone, redo))).orderBy(redo ? asc(handEdits.id) : desc(handEdits.id)).limit(1)
    if (!part) return turned
    await db.transaction(async (tx) => {
      await writeMarks(tx, redo ? part.before : part.after, redo ? part.after : part.before)
      await tx.update(handEdits).set({ undone: !redo }).where(eq(handEdits.id, part.id))
    })
    done += part.count
  }
}

/** What was undone can't be done again once something else is set. */
async function beginStep(db: Database): Promise<number> {
  const [last] = await db.select({ step: sql`coalesce(max(${handEdits.step}), 0)`.mapWith(Number) }).from(handEdits)
  return (last?.step ?? 0) + 1
}

/** The oldest steps are forgotten when there are too many of them, or when they hold too much. */
async function endStep(db: Database): Promise<void> {
  await db.execute(sql`
    DELETE FROM hand_edits WHERE step IN (
      SELECT step FROM (SELECT step, sum(sum(count)) OVER newest AS held, row_number() OVER newest AS place FROM hand_edits GROUP BY step WINDOW newest AS (ORDER BY step DESC)) steps
      WHERE place > ${STEPS_KEPT} OR (held > ${MARKS_KEPT} AND place > 1))`)
}

async function applyPart(db: Database, step: number, before: readonly Mark[], after: readonly Mark[], title: string): Promise<void> {
  if (after.length === 0) return
  await db.transaction(async (tx) => {
    await tx.delete(handEdits).where(eq(handEdits.undone, true))
    await tx.insert(handEdits).values({ step, title, count: after.length, before: [...before], after: [...after] })
    await writeMarks(tx, before, after)
  })
}

/** The marks of some sounds; those that are gone are left out. */
export async function marksOf(db: Pick<Database, 'select'>, ids: readonly number[]): Promise<Mark[]> {
  const found: Mark[] = []
  for (const part of parts(ids)) {
    found.push(...await db.select({ id: sounds.id, kind: sounds.handKind, tags: sounds.handTags, favourite: sounds.favourite, note: sounds.handNote, aside: sounds.setAside })
      .from(sounds).where(inArray(sounds.id, part)).orderBy(sounds.id))
  }
  return found
}

/** Forgets what was set of the sounds of a source that lie nowhere else. */
export async function forgetMarks(db: Database, soundIds: readonly number[]): Promise<void> {
  for (const part of parts(soundIds)) {
    await db.update(sounds).set({ handKind: null, handTags: [], favourite: false, handNote: '', setAside: false })
      .where(and(inArray(sounds.id, part), eq(sounds.fileCount, 0)))
  }
}

/** Every tag in use with the number of sounds that bear it, the most used first. */
export async function tagsInUse(db: Database): Promise<{ tag: string, count: number }[]> {
  const worn = db.select({ tag: sql<string>`unnest(${sounds.tags})`.as('tag') }).from(sounds).where(gt(sounds.fileCount, 0)).as('worn')
  return db.select({ tag: worn.tag, count: count() }).from(worn).groupBy(worn.tag).orderBy(desc(count()), naturally(worn.tag)).limit(200)
}

function patched(mark: Mark, patch: MarkPatch): Mark {
  const removed = new Set(patch.removeTags)
  return {
    id: mark.id,
    kind: patch.kind === undefined ? mark.kind : patch.kind,
    tags: [...new Set([...mark.tags.filter(tag => !removed.has(tag)), ...patch.addTags])],
    favourite: patch.favourite ?? mark.favourite,
    note: patch.note ?? mark.note,
    aside: patch.aside ?? mark.aside,
  }
}

async function writeMarks(tx: Pick<Database, 'select' | 'insert' | 'update' | 'execute'>, before: readonly Mark[], after: readonly Mark[]): Promise<void> {
  await tx.execute(sql`
    UPDATE sounds s SET hand_kind = x.kind, hand_tags = ARRAY(SELECT jsonb_array_elements_text(x.tags)), favourite = x.favourite, hand_note = x.note, set_aside = coalesce(x.aside, s.set_aside)
    FROM jsonb_to_recordset(${JSON.stringify(after)}::jsonb) AS x(id integer, kind text, tags jsonb, favourite boolean, note text, aside boolean)
    WHERE s.id = x.id`)
  const worn = (mark: Mark) => JSON.stringify([mark.kind, mark.tags, mark.note])
  // What a row is called and found by says nothing of favourites and of what is set aside.
  await refreshSounds(tx, after.flatMap((mark, i) => before[i]?.id === mark.id && worn(before[i]) === worn(mark) ? [] : [mark.id]))
}

function parts<T>(items: readonly T[]): T[][] {
  return Array.from({ length: Math.ceil(items.length / PART) }, (_, i) => items.slice(i * PART, (i + 1) * PART))
}
