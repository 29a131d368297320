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
