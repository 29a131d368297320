import { asc } from 'drizzle-orm'
import { schema, type Database } from '../db/open'
import { soundRowsByHash, type SoundRow } from './search'

const { tray } = schema

/** The sounds on the tray, in their order. */
export async function readTray(db: Database): Promise<SoundRow[]> {
  const rows = await db.select().from(tray).orderBy(asc(tray.position))
  return soundRowsByHash(db, rows.map(row => row.soundHash))
}

/** Adds sounds at the tray's end; those on it already stay where they are. */
export async function addToTray(db: Database, hashes: readonly string[]): Promise<void> {
  await db.transaction(async (tx) => {
    const rows = await tx.select().from(tray).orderBy(asc(tray.position))
    const next = (rows.at(-1)?.position ?? -1) + 1
    const fresh = [...new Set(hashes)].map((soundHash, i) => ({ soundHash, position: next + i }))
    if (fresh.length > 0) await tx.insert(tray).values(fresh).onConflictDoNothing()
  })
}

/** Puts the tray in a new order or takes sounds off it: what is listed is what it holds afterwards. */
export async function setTray(db: Database, hashes: readonly string[]): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.delete(tray)
    const rows = [...new Set(hashes)].map((soundHash, position) => ({ soundHash, position }))
    if (rows.length > 0) await tx.insert(tray).values(rows)
  })
}
