import { randomUUID } from 'node:crypto'
import { and, desc, eq, sql } from 'drizzle-orm'
import { EmporionError } from '../../core/errors'
import { emptyKit, KIT_SCHEMA_VERSION, soundsOf, type Kit } from '../../core/kit/document'
import { applyDifference, type Difference } from '../../core/document/difference'
import { parseKit, readableKit } from '../../core/kit/migrate'
import { schema, type Database } from '../db/open'
import type { KitSummary, KitView } from '../../contract/kits'

const { kits } = schema

type KitRow = typeof kits.$inferSelect

/** Open kits, the one edited last first. */
export async function listKits(db: Database): Promise<KitSummary[]> {
  const rows = await db.select({
    id: kits.id,
    name: sql<string>`${kits.kit}->>'name'`,
    pads: sql`(select count(*) from jsonb_array_elements(${kits.kit}->'pads') pad where jsonb_array_length(pad->'layers') > 0)`.mapWith(Number),
    updatedAt: kits.updatedAt,
    nth: sql`row_number() over (partition by lower(${kits.kit}->>'name') order by ${kits.createdAt}, ${kits.id})`.mapWith(Number),
  }).from(kits).orderBy(desc(kits.updatedAt))
  return rows.map(({ nth, ...row }) => ({ ...row, label: nth > 1 ? `${row.name} (${nth})` : row.name, updatedAt: row.updatedAt.toISOString() }))
}

const NEW_KIT = 'New kit'

/** What a new kit is called: no other open one is called so. */
async function newName(db: Pick<Database, 'select'>): Promise<string> {
  const rows = await db.select({ name: sql<string>`${kits.kit}->>'name'` }).from(kits).where(sql`starts_with(${kits.kit}->>'name', ${NEW_KIT})`)
  const taken = new Set(rows.map(({ name }) => name))
  for (let n = 1; ; n++) {
    const name = n === 1 ? NEW_KIT : `${NEW_KIT} ${n}`
    if (!taken.has(name)) return name
  }
}

export async function readKit(db: Database, id: string): Promise<KitView> {
  const [row] = await db.select().from(kits).where(eq(kits.id, id))
  if (!row) throw new EmporionError('not-found', { what: 'This kit is no longer there.', next: 'Choose another one, or open a preset from the vault.' })
  return view(row)
}

export async function createKit(db: Database, kit: Kit = emptyKit(NEW_KIT), from?: { presetId: string, presetRevision: number, patternId?: string }): Promise<KitView> {
  const named = kit.name === NEW_KIT ? { ...kit, name: await newName(db) } : kit
  const [row] = await db.insert(kits).values({ id: randomUUID(), kit: named, revision: 1, ...from }).returning()
  return view(row!)
}

/** Takes up a preset's kit: the one at work that came from it and is still as it is, or a new one. Whoever looks through presets leaves no trail of copies. */
export async function takeUpKit(db: Database, kit: Kit, from: { presetId: string, presetRevision: number, patternId?: string }): Promise<KitView> {
  const [same] = await db.select({ id: kits.id }).from(kits).where(and(
    eq(kits.presetId, from.presetId), eq(kits.presetRevision, from.presetRevision),
    sql`${kits.patternId} IS NOT DISTINCT FROM ${from.patternId ?? null}`, sql`${kits.kit} = ${JSON.stringify(kit)}::jsonb`)).limit(1)
  if (!same) return createKit(db, kit, from)
  const [row] = await db.update(kits).set({ updatedAt: new Date() }).where(eq(kits.id, same.id)).returning()
  return row ? view(row) : createKit(db, kit, from)
}

/** Makes several kits in one transaction. */
export async function createKits(db: Database, all: readonly Kit[]): Promise<KitView[]> {
  const rows = await db.insert(kits).values(all.map(kit => ({ id: randomUUID(), kit, revision: 1 }))).returning()
  return rows.map(view)
}

/**
 * Saves an edit. It must build on the revision that is stored, so that two tabs never overwrite each other unseen.
 *
 * @throws EmporionError `conflict` when the kit has been changed elsewhere since `baseRevision`; `unsupported` when a newer
 *   Emporion wrote it
 */
export async function saveKit(db: Database, id: string, kit: Kit, baseRevision: number): Promise<SavedKit> {
  return { revision: await write(db, id, kit, baseRevision), usesOthers: true }
}

/** What came of saving an edit. */
export interface SavedKit {
  readonly revision: number
  /** Whether the kit may have other sounds than before. */
  readonly usesOthers: boolean
}

async function write(db: Database, id: string, kit: Kit, baseRevision: number): Promise<number> {
  const isKnown = sql`(${kits.kit}->>'schema')::int <= ${KIT_SCHEMA_VERSION}`
  const [row] = await db.update(kits).set({ kit, revision: baseRevision + 1, updatedAt: new Date() })
    .where(and(eq(kits.id, id), eq(kits.revision, baseRevision), isKnown)).returning({ revision: kits.revision })
  if (row) return row.revision
  const current = await readKit(db, id)
  if (current.writtenBy !== null) {
    throw new EmporionError('unsupported', { what: `"${current.kit.name}" was written by a newer Emporion and can only be read here.`, kept: 'It was not changed.', next: 'Make a copy to work on.' })
  }
  throw new EmporionError('conflict', {
    what: `"${current.kit.name}" was changed elsewhere in the meantime (revision ${current.revision}; this edit builds on ${baseRevision}).`,
    kept: 'Both versions are kept.',
  })
}

/**
 * Saves an edit by what it changed, as `saveKit` does: of a large kit that is little.
 *
 * @throws EmporionError `invalid` when what comes of it is no whole kit; else as `saveKit`
 */
export async function saveDifference(db: Database, id: string, difference: Difference, baseRevision: number): Promise<SavedKit> {
  const base = await readKit(db, id)
  // Of another revision nothing can be made: saving it reports that.
  const now = base.revision === baseRevision ? parseKit(applyDifference(base.kit, difference)) : base.kit
  return { revision: await write(db, id, now, baseRevision), usesOthers: !hasSameSounds(base.kit, now) }
}

function hasSameSounds(one: Kit, other: Kit): boolean {
  const [before, after] = [one, other].map(kit => new Set(soundsOf(kit).map(sound => sound.id)))
  return before!.size === after!.size && [...before!].every(id => after!.has(id))
}

/** Notes which pattern is played on a kit. That is no edit: nothing else about it changes. */
export async function setKitPattern(db: Database, id: string, patternId: string | null): Promise<void> {
  await db.update(kits).set({ patternId }).where(eq(kits.id, id))
}

export async function deleteKit(db: Database, id: string): Promise<void> {
  await db.delete(kits).where(eq(kits.id, id))
}

function view(row: KitRow): KitView {
  const { kit, writtenBy } = readableKit(row.kit)
  return {
    id: row.id,
    kit,
    writtenBy,
    revision: row.revision,
    presetId: row.presetId,
    presetRevision: row.presetRevision,
    patternId: row.patternId,
    updatedAt: row.updatedAt.toISOString(),
  }
}
