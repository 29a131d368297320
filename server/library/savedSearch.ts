/** What a saved search asks: the text, where it looks, and how it is sorted. */
export interface SavedSearch {
  readonly q: string
  readonly source?: number
  readonly folder?: string
  readonly sort: string
  readonly descending: boolean
}
