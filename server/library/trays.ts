import { and, asc, between, eq, inArray, sql } from 'drizzle-orm'
import { EmporionError } from '../../core/errors'
import { kindLabel, topKind } from '../../core/search/kinds'
import { schema, type Database } from '../db/open'
import { soundRowsByHash } from './search'
import type { TrayChange, TrayItem, TrayView } from '../../contract/tray'
import { counted } from '../../core/wording'

const { trays, traySounds } = schema
const FIRST_NAME = 'Tray'

/** Every tray, the oldest first. There is always one. */
export async function listTrays(db: Database): Promise<TrayView[]> {
  const listed = await db.select({ id: trays.id, name: trays.name, count: sql`count(${traySounds.soundHash})`.mapWith(Number) })
    .from(trays).leftJoin(traySounds, eq(traySounds.trayId, trays.id)).groupBy(trays.id).orderBy(asc(trays.id))
  if (listed.length > 0) return listed
  await addTray(db, FIRST_NAME)
  return listTrays(db)
}

export async function addTray(db: Database, name: string): Promise<TrayView> {
  const [tray] = await db.insert(trays).values({ name }).returning()
  return { id: tray!.id, name, count: 0 }
}

export async function renameTray(db: Database, id: number, name: string): Promise<void> {
  const changed = await db.update(trays).set({ name }).where(eq(trays.id, id)).returning({ id: trays.id })
  if (changed.length === 0) throw gone()
}

/** Takes a tray away; its sounds stay in the library. */
export async function removeTray(db: Database, id: number): Promise<void> {
  await db.delete(trays).where(eq(trays.id, id))
}

/** What lies on a tray, in its order. */
export async function readTray(db: Database, id: number): Promise<TrayItem[]> {
  const items = await itemsOf(db, id)
  const rows = new Map((await soundRowsByHash(db, items.map(item => item.soundHash))).map(row => [row.hash, row]))
  return items.flatMap(({ soundHash, note }) => {
    const row = rows.get(soundHash)
    return row ? [{ row, note }] : []
  })
}

/** Adds sounds at the tray's end; those on it already stay where they are. */
export async function addToTray(db: Database, id: number, hashes: readonly string[]): Promise<void> {
  await db.transaction(async (tx) => {
    await requireTray(tx, id)
    const end = await endOf(tx, id)
    const fresh = [...new Set(hashes)].map((soundHash, i) => ({ trayId: id, soundHash, position: end + i }))
    if (fresh.length > 0) await tx.insert(traySounds).values(fresh).onConflictDoNothing()
  })
}

/** Takes sounds off a tray, notes something of one, or moves one. What is no longer on it is left at that. */
export async function changeTray(db: Database, id: number, change: TrayChange): Promise<void> {
  await db.transaction(async (tx) => {
    await requireTray(tx, id)
    if (change.type === 'remove') await tx.delete(traySounds).where(and(eq(traySounds.trayId, id), inArray(traySounds.soundHash, change.hashes)))
    else if (change.type === 'note') await tx.update(traySounds).set({ note: change.note }).where(soundOn(id, change.hash))
    else await moveOnTray(tx, id, change.hash, change.before)
  })
}

/** Moves a sound; those that lie between its old place and its new one make room. */
async function moveOnTray(tx: Pick<Database, 'select' | 'update'>, id: number, hash: string, before: string | null): Promise<void> {
  const placeOf = async (other: string) => (await tx.select({ position: traySounds.position }).from(traySounds).where(soundOn(id, other)))[0]?.position
  const [from, to] = [await placeOf(hash), before === null ? await endOf(tx, id) : await placeOf(before)]
  if (from === undefined || to === undefined || from === to) return
  const [first, last, step, place] = from < to ? [from + 1, to - 1, -1, to - 1] : [to, from - 1, 1, to]
  await tx.update(traySounds).set({ position: sql`${traySounds.position} + ${step}` }).where(and(eq(traySounds.trayId, id), between(traySounds.position, first, last)))
  await tx.update(traySounds).set({ position: place }).where(soundOn(id, hash))
}

/** The position after the last on a tray. */
async function endOf(tx: Pick<Database, 'select'>, id: number): Promise<number> {
  const [last] = await tx.select({ position: sql`coalesce(max(${traySounds.position}), -1)`.mapWith(Number) }).from(traySounds).where(eq(traySounds.trayId, id))
  return (last?.position ?? -1) + 1
}

function soundOn(id: number, hash: string) {
  return and(eq(traySounds.trayId, id), eq(traySounds.soundHash, hash))
}

/** A tray as a text to be read: a line a sound, with its kind, length and note. */
export async function trayAsText(db: Database, id: number): Promise<string> {
  const [tray] = await db.select().from(trays).where(eq(trays.id, id))
  if (!tray) throw gone()
  const items = await readTray(db, id)
  const lines = items.map(({ row, note }, i) => [
    String(i + 1).padStart(3), row.name, row.kind ? kindLabel(row.kind) : 'kind not known', `${row.lengthSeconds.toFixed(2)} s`, row.folder, note,
  ].join('\t').trimEnd())
  const kinds = Object.entries(countKinds(items)).map(([kind, count]) => `${count} ${kind}`).join(', ')
  return `${tray.name}: ${counted(items.length, 'sound')}${kinds ? ` (${kinds})` : ''}\n\n${lines.join('\n')}\n`
}

function countKinds(items: readonly TrayItem[]): Record<string, number> {
  const counts: Record<string, number> = {}
  for (const { row } of items) {
    const kind = row.kind ? topKind(row.kind) : 'unknown'
    counts[kind] = (counts[kind] ?? 0) + 1
  }
  return counts
}

async function itemsOf(db: Database, id: number) {
  return db.select().from(traySounds).where(eq(traySounds.trayId, id)).orderBy(asc(traySounds.position))
}

async function requireTray(tx: Pick<Database, 'select'>, id: number): Promise<void> {
  const [tray] = await tx.select({ id: trays.id }).from(trays).where(eq(trays.id, id))
  if (!tray) throw gone()
}

function gone(): EmporionError {
  return new EmporionError('not-found', { what: 'This tray was taken away.', kept: 'Its sounds are in the library as before.', next: 'Choose another tray.' })
}
