import { and, asc, eq } from 'drizzle-orm'
import { EmporionError } from '../../core/errors'
import type { FavouriteChoice, FavouriteFolder } from '../../contract/searches'
import { naturally } from '../db/natural'
import { schema, type Database } from '../db/open'

const { favouriteFolders, sources } = schema

/** Every favourite folder, by source and path. */
export function listFavouriteFolders(db: Database): Promise<FavouriteFolder[]> {
  return db.select({ sourceId: favouriteFolders.sourceId, path: favouriteFolders.path }).from(favouriteFolders).innerJoin(sources, eq(sources.id, favouriteFolders.sourceId))
    .orderBy(naturally(sources.name), asc(sources.id), naturally(favouriteFolders.path))
}

/** Marks a folder as a favourite, or as none. @throws EmporionError `not-found` where its source was removed */
export async function setFavouriteFolder(db: Database, { sourceId, path, favourite }: FavouriteChoice): Promise<void> {
  if (!favourite) return void await db.delete(favouriteFolders).where(and(eq(favouriteFolders.sourceId, sourceId), eq(favouriteFolders.path, path)))
  const [source] = await db.select({ id: sources.id }).from(sources).where(eq(sources.id, sourceId))
  if (!source) throw new EmporionError('not-found', 'This source was removed.')
  await db.insert(favouriteFolders).values({ sourceId, path }).onConflictDoNothing()
}
