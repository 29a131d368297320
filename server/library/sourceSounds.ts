import { and, asc, countDistinct, eq, isNotNull, sql } from 'drizzle-orm'
import { naturally } from '../db/natural'
import { schema, type Database } from '../db/open'
import { soundRows } from './search'
import type { SoundRow } from '../../contract/library'
import type { Listed, Stretch } from '../../contract/sources'

const { files } = schema

/** The sounds of a source in the order of their first files, each once; asked of the database, which knows them as soon as they are read. */
export async function listSounds(db: Database, sourceId: number, { limit, offset }: Stretch): Promise<Listed<SoundRow>> {
  const isRead = and(eq(files.sourceId, sourceId), isNotNull(files.soundId), eq(files.missing, false))
  const [counted] = await db.select({ total: countDistinct(files.soundId) }).from(files).where(isRead)
  const found = await db.select({ id: sql<number>`${files.soundId}` }).from(files).where(isRead).groupBy(files.soundId).orderBy(asc(sql`min(${naturally(files.path)})`), asc(files.soundId)).limit(limit).offset(offset)
  const rows = new Map((await soundRows(db, found.map(({ id }) => id))).map(row => [row.id, row]))
  return { total: counted!.total, shown: found.flatMap(({ id }) => rows.get(id) ?? []) }
}
