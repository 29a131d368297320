import { and, asc, desc, eq, gt, inArray, lt, sql } from 'drizzle-orm'
import { z } from 'zod'
import { EmporionError } from '../../core/errors'
import { isKind } from '../../core/search/kinds'
import { schema, type Database } from '../db/open'
import type { Mark } from './mark'
import { refreshSounds } from './record'

const { handEdits, sounds } = schema

/** Sounds that one edit may touch. */
export const MOST_MARKED = 10_000
const EDITS_KEPT = 200
const PART = 500

export const kindSchema = z.string().refine(isKind, 'This kind is not in the tree.')
export const tagSchema = z.string().trim().min(1).max(60).refine(tag => !/[,;\n]/.test(tag), 'A tag holds no commas, semicolons or line breaks.')

/** What is to be set of some sounds; what is not named stays. */
export const markPatchSchema = z.object({
  ids: z.array(z.int().min(1)).min(1).max(MOST_MARKED),
  /** Null takes a kind set by hand away. */
  kind: kindSchema.nullable().optional(),
  addTags: z.array(tagSchema).max(50).default([]),
  removeTags: z.array(tagSchema).max(50).default([]),
  favourite: z.boolean().optional(),
  note: z.string().max(4000).optional(),
})
export type MarkPatch = z.infer<typeof markPatchSchema>

/** An edit as it was done, undone or redone. */
export interface MarkEdit {
  readonly title: string
  readonly count: number
}

/** Sets what a person says of sounds, as one step that can be undone. Gives how many have changed. */
export async function setMarks(db: Database, patch: MarkPatch, title: string): Promise<MarkEdit> {
  const before = await marksOf(db, patch.ids)
  const changed = before.map(mark => [mark, patched(mark, patch)] as const).filter(([was, is]) => JSON.stringify(was) !== JSON.stringify(is))
  return applyMarks(db, changed.map(([was]) => was), changed.map(([, is]) => is), title)
}

/** Writes marks as one step that can be undone. */
export async function applyMarks(db: Database, before: readonly Mark[], after: readonly Mark[], title: string): Promise<MarkEdit> {
  if (after.length === 0) return { title, count: 0 }
  await db.transaction(async (tx) => {
    await tx.delete(handEdits).where(eq(handEdits.undone, true))
    const [edit] = await tx.insert(handEdits).values({ title, before: [...before], after: [...after] }).returning({ id: handEdits.id })
    await tx.delete(handEdits).where(lt(handEdits.id, edit!.id - EDITS_KEPT))
    await writeMarks(tx, after)
  })
  return { title, count: after.length }
}

/** Takes the last edit back. @throws EmporionError `not-found` when there is none */
export async function undoMarks(db: Database): Promise<MarkEdit> {
  return db.transaction(async (tx) => {
    const [edit] = await tx.select().from(handEdits).where(eq(handEdits.undone, false)).orderBy(desc(handEdits.id)).limit(1)
    if (!edit) throw new EmporionError('not-found', 'There is nothing to undo: nothing has been set by hand yet.')
    await writeMarks(tx, edit.before)
    await tx.update(handEdits).set({ undone: true }).where(eq(handEdits.id, edit.id))
    return { title: edit.title, count: edit.before.length }
  })
}

/** Does again what was taken back last. @throws EmporionError `not-found` when there is none */
export async function redoMarks(db: Database): Promise<MarkEdit> {
  return db.transaction(async (tx) => {
    const [edit] = await tx.select().from(handEdits).where(eq(handEdits.undone, true)).orderBy(asc(handEdits.id)).limit(1)
    if (!edit) throw new EmporionError('not-found', 'There is nothing to do again.')
    await writeMarks(tx, edit.after)
    await tx.update(handEdits).set({ undone: false }).where(eq(handEdits.id, edit.id))
    return { title: edit.title, count: edit.after.length }
  })
}

/** The marks of some sounds; those that are gone are left out. */
export async function marksOf(db: Pick<Database, 'select'>, ids: readonly number[]): Promise<Mark[]> {
  const found: Mark[] = []
  for (const part of parts(ids)) {
    found.push(...await db.select({ id: sounds.id, kind: sounds.handKind, tags: sounds.handTags, favourite: sounds.favourite, note: sounds.handNote })
      .from(sounds).where(inArray(sounds.id, part)).orderBy(sounds.id))
  }
  return found
}

/** Forgets what was set of the sounds of a source that lie nowhere else. */
export async function forgetMarks(db: Database, soundIds: readonly number[]): Promise<void> {
  for (const part of parts(soundIds)) {
    await db.update(sounds).set({ handKind: null, handTags: [], favourite: false, handNote: '' })
      .where(and(inArray(sounds.id, part), eq(sounds.fileCount, 0)))
  }
}

/** Every tag in use with the number of sounds that bear it, the most used first. */
export async function tagsInUse(db: Database): Promise<{ tag: string, count: number }[]> {
  const tag = sql<string>`unnest(${sounds.tags})`
  return db.select({ tag, count: sql`count(*)`.mapWith(Number) }).from(sounds)
    .where(gt(sounds.fileCount, 0)).groupBy(sql`1`).orderBy(sql`2 desc`, sql`1`).limit(200)
}

function patched(mark: Mark, patch: MarkPatch): Mark {
  const removed = new Set(patch.removeTags)
  return {
    id: mark.id,
    kind: patch.kind === undefined ? mark.kind : patch.kind,
    tags: [...new Set([...mark.tags.filter(tag => !removed.has(tag)), ...patch.addTags])],
    favourite: patch.favourite ?? mark.favourite,
    note: patch.note ?? mark.note,
  }
}

async function writeMarks(tx: Pick<Database, 'select' | 'insert' | 'update' | 'execute'>, marks: readonly Mark[]): Promise<void> {
  for (const part of parts(marks)) {
    await tx.execute(sql`
      UPDATE sounds s SET hand_kind = x.kind, hand_tags = ARRAY(SELECT jsonb_array_elements_text(x.tags)), favourite = x.favourite, hand_note = x.note
      FROM jsonb_to_recordset(${JSON.stringify(part)}::jsonb) AS x(id integer, kind text, tags jsonb, favourite boolean, note text)
      WHERE s.id = x.id`)
    await refreshSounds(tx, part.map(mark => mark.id))
  }
}

function parts<T>(items: readonly T[]): T[][] {
  return Array.from({ length: Math.ceil(items.length / PART) }, (_, i) => items.slice(i * PART, (i + 1) * PART))
}
