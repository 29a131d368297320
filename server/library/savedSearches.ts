import { asc, eq, sql } from 'drizzle-orm'
import { naturally } from '../db/natural'
import { schema, type Database } from '../db/open'
import type { FinderClient } from './finder/client'
import { searchSchema, type SavedSearch, type SavedSearchView } from '../../contract/searches'

const { savedSearches } = schema

/** Every saved search with what it finds now, by name. */
export async function listSaved(db: Database, finder: FinderClient, middleC: 'C3' | 'C4'): Promise<SavedSearchView[]> {
  const rows = await db.select().from(savedSearches).orderBy(naturally(savedSearches.name), asc(savedSearches.id))
  return Promise.all(rows.map(async ({ id, name, search }) => ({ id, name, search, count: await countOf(finder, search, middleC) })))
}

/** Keeps a search under a name; one of that name is replaced. */
export async function saveSearch(db: Database, name: string, search: SavedSearch): Promise<void> {
  await db.transaction(async (tx) => {
    // Two of one name at once would both find none.
    await tx.execute(sql`LOCK TABLE ${savedSearches} IN SHARE ROW EXCLUSIVE MODE`)
    await tx.delete(savedSearches).where(eq(savedSearches.name, name))
    await tx.insert(savedSearches).values({ name, search })
  })
}

export async function removeSaved(db: Database, id: number): Promise<void> {
  await db.delete(savedSearches).where(eq(savedSearches.id, id))
}

async function countOf(finder: FinderClient, search: SavedSearch, middleC: 'C3' | 'C4'): Promise<number | null> {
  const read = searchSchema.safeParse({ ...search, middleC })
  return read.success ? finder.ask({ type: 'count', search: read.data }).catch(() => null) : null
}
