import type { Database } from '../db/open'
import { facets, findIds, type Facets, type Search } from './search'

const MOST_KEPT = 24

interface Result {
  readonly revision: number
  readonly ids: Promise<Int32Array>
  facets?: Promise<Facets>
}

/**
 * Keeps the ids of the last searches, so that any window of a result of any size is one look-up by id. A result is
 * used until the library changes.
 */
export class ResultCache {
  private readonly results = new Map<string, Result>()

  constructor(private readonly db: Database, private readonly libraryRevision: () => number) {}

  ids(search: Search): Promise<Int32Array> {
    return this.result(search).ids
  }

  facets(search: Search): Promise<Facets> {
    const result = this.result(search)
    result.facets ??= facets(this.db, search)
    return result.facets
  }

  private result(search: Search): Result {
    const key = JSON.stringify([search.q.trim(), search.kind, search.source, search.favourite])
    const revision = this.libraryRevision()
    const known = this.results.get(key)
    this.results.delete(key)
    const result = known?.revision === revision ? known : { revision, ids: this.find(key, search) }
    this.results.set(key, result)
    const oldest = this.results.keys().next().value
    if (this.results.size > MOST_KEPT && oldest !== undefined) this.results.delete(oldest)
    return result
  }

  private find(key: string, search: Search): Promise<Int32Array> {
    const ids = findIds(this.db, search)
    // A search that failed is not kept, so that the next try asks again.
    ids.catch(() => this.results.delete(key))
    return ids
  }
}
