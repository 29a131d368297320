import { z } from 'zod'
import { NAME_LENGTHS } from '../core/nameLengths'
import { SORTS } from '../core/search/catalogue/order'
import { get, post, put, remove } from './endpoint'
import { flagSchema, idSchema, middleCSchema } from './ids'

/** What is asked of the library: the text of the search line, where is looked, and in which order. */
export const searchSchema = z.strictObject({
  q: z.string().max(2000).default(''),
  /** The scope: a source, and a folder of it. */
  source: idSchema.optional(),
  folder: z.string().max(4096).optional(),
  sort: z.enum(SORTS).default('name'),
  descending: flagSchema.default(false),
  /** What middle C is called in the text. */
  middleC: middleCSchema.default('C3'),
})
export type Search = z.infer<typeof searchSchema>

/** A folder that a person marked as a favourite. */
export interface FavouriteFolder {
  readonly sourceId: number
  /** Below the source; empty for all of it. */
  readonly path: string
}

/** What a saved search asks: the text, where it looks, and how it is sorted. */
export interface SavedSearch {
  readonly q: string
  readonly source?: number
  readonly folder?: string
  readonly sort: string
  readonly descending: boolean
}

export interface SavedSearchView {
  readonly id: number
  readonly name: string
  readonly search: SavedSearch
  /** How many sounds it finds now; null where it can't be carried out any more. */
  readonly count: number | null
}

/** A search that is kept, under its name. */
export const saveSearchSchema = z.object({ name: z.string().trim().min(1).max(NAME_LENGTHS.search), search: searchSchema.omit({ middleC: true }) })

export const favouriteFolderSchema = z.object({ sourceId: idSchema, path: z.string().max(4096), favourite: z.boolean() })
export type FavouriteChoice = z.infer<typeof favouriteFolderSchema>

export const searchRoutes = {
  list: get('/api/searches', 'Saved searches, with what each finds now.', { query: z.object({ middleC: middleCSchema.default('C3') }) }).answers<readonly SavedSearchView[]>(),
  save: post('/api/searches', 'Saves a search under a name; one of that name is replaced.', { body: saveSearchSchema }).answers<{ readonly saved: boolean }>(),
  remove: remove('/api/searches/[id]', 'Removes a saved search.', { params: { id: idSchema } }).answers<{ readonly removed: boolean }>(),
  favouriteFolders: get('/api/folders', 'Folders that are marked as favourites.').answers<readonly FavouriteFolder[]>(),
  setFavouriteFolder: put('/api/folders', 'Marks a folder as a favourite, or as none.', { body: favouriteFolderSchema }).answers<{ readonly marked: boolean }>(),
}
