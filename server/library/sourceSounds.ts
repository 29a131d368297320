import { and, asc, eq, isNotNull } from 'drizzle-orm'
import { naturally } from '../db/natural'
import { schema, type Database } from '../db/open'
import { soundRows, type SoundRow } from './search'
import type { Listed, Stretch } from './sourceLists'

const { files } = schema

/** The sounds of a source in the order of its files, each once; asked of the database, which knows them as soon as they are read. */
export async function listSounds(db: Database, sourceId: number, { limit, offset }: Stretch): Promise<Listed<SoundRow>> {
  const found = await db.select({ soundId: files.soundId }).from(files)
    .where(and(eq(files.sourceId, sourceId), isNotNull(files.soundId), eq(files.missing, false))).orderBy(asc(naturally(files.path)))
  const ids = [...new Set(found.flatMap(({ soundId }) => soundId ?? []))]
  const rows = new Map((await soundRows(db, ids.slice(offset, offset + limit))).map(row => [row.id, row]))
  return { total: ids.length, shown: ids.slice(offset, offset + limit).flatMap(id => rows.get(id) ?? []) }
}
