import { LRUCache } from 'lru-cache'
import type { Nearness } from '../../../core/audio/analysis/nearness'
import { EmporionError } from '../../../core/errors'
import type { Catalogue } from '../../../core/search/catalogue/catalogue'
import type { SearchContext } from '../../../core/search/catalogue/evaluate'
import { asksForState, Found, type FoundBy, type Hidden } from '../../../core/search/catalogue/find'
import type { Facets } from '../../../core/search/catalogue/facets'
import { orderedBy, type SortBy } from '../../../core/search/catalogue/order'
import type { Vectors } from '../../../core/search/catalogue/vectors'
import { parseQuery } from '../../../core/search/query/parse'
import type { Query, ReadQuery, SoundCondition } from '../../../core/search/query/tree'
import type { Search } from '../../../contract/searches'

const MOST_KEPT = 16
const MOST_NEAR = 1000
const MOST_PROBES = 32

/** A search that was carried out, in its order. */
interface Result {
  readonly revision: number
  readonly usesRevision: number
  /** Whether it matters to what was found which sounds are used. */
  readonly asksForUsed: boolean
  readonly found: Found
  readonly slots: Int32Array
  /** How near each is, in the same order, where the search is for what is like a sound. */
  readonly nearness: readonly Nearness[] | undefined
  facets?: { readonly usesRevision: number, readonly counts: Facets }
  hidden?: Hidden
}

/** Carries searches out and keeps the last ones, so that any window of a result is one look at a list. */
export class Results {
  private readonly results = new LRUCache<string, Result>({ max: MOST_KEPT })
  private readonly orders = new LRUCache<string, { readonly revision: number, readonly order: Int32Array }>({ max: MOST_KEPT })
  private readonly probes = new LRUCache<string, Uint8Array>({ max: MOST_PROBES })
  private probed = 0

  constructor(private readonly catalogue: Catalogue, private readonly vectors: Vectors) {}

  /** @throws EmporionError `invalid` where the text of the search can't be understood */
  result(search: Search, relatedTo: SearchContext['relatedTo']): Result {
    const key = JSON.stringify([search.q.trim(), search.source, search.folder, search.sort, search.descending, search.middleC])
    const known = this.results.get(key)
    const result = known && this.isAsBefore(known) ? known : this.carryOut(search, relatedTo)
    this.results.set(key, result)
    return result
  }

  facets(result: Result): { facets: Facets, hidden: Hidden } {
    const { usesRevision } = this.catalogue
    if (result.facets?.usesRevision !== usesRevision) result.facets = { usesRevision, counts: result.found.facets() }
    result.hidden ??= result.found.hidden()
    return { facets: result.facets.counts, hidden: result.hidden }
  }

  /** What kits use changes with every edit, and matters to hardly any result. */
  private isAsBefore({ revision, usesRevision, asksForUsed }: Result): boolean {
    return revision === this.catalogue.revision && (!asksForUsed || usesRevision === this.catalogue.usesRevision)
  }

  /** A window of a result: the ids, and how each was found. */
  window({ slots, found, nearness }: Result, offset: number, limit: number): { ids: number[], foundBy: FoundBy[], nearness: readonly Nearness[] | undefined } {
    const shown = [...slots.subarray(offset, offset + limit)]
    return {
      ids: shown.map(slot => this.catalogue.columns.ids[slot]!),
      foundBy: shown.map(slot => found.foundBy(slot)),
      nearness: nearness?.slice(offset, offset + limit),
    }
  }

  /** Where a sound stands in a result; -1 when it is not in it. */
  placeOf({ slots }: Result, id: number): number {
    const slot = this.catalogue.slotOf(id)
    return slot === undefined ? -1 : slots.indexOf(slot)
  }

  /** The ids of stretches of a result, each from its first to its last place. */
  idsOf({ slots }: Result, stretches: readonly (readonly [number, number])[]): number[] {
    return stretches.flatMap(([from, to]) => Array.from(slots.subarray(from, to + 1), slot => this.catalogue.columns.ids[slot]!))
  }

  /** Keeps the vector of a sound that is not in the library, under a name that a search can call it by. */
  probe(vector: Uint8Array): string {
    const name = `drop-${++this.probed}`
    this.probes.set(name, vector)
    return name
  }

  private carryOut(search: Search, relatedTo: SearchContext['relatedTo']): Result {
    const read = readSearch(search)
    const found = new Found(this.catalogue, read, { sourceId: search.source, folder: search.folder }, { nowMs: Date.now(), relatedTo })
    const like = soundOf(read.query, 'like')
    const { revision, usesRevision } = this.catalogue
    const asked = { revision, usesRevision, asksForUsed: asksForState(read.query, 'used', true) }
    if (like === undefined) return { ...asked, found, slots: found.inOrder(this.order(search.sort, search.descending)), nearness: undefined }
    const neighbours = this.vectors.nearest(this.vectorOf(like), found.all, MOST_NEAR)
    return { ...asked, found, slots: Int32Array.from(neighbours, neighbour => neighbour.slot), nearness: neighbours.map(neighbour => neighbour.nearness) }
  }

  private vectorOf(sound: string): Uint8Array {
    const slot = sound.startsWith('drop-') ? undefined : this.catalogue.slotOf(Number(sound))
    const vector = slot === undefined ? this.probes.get(sound) : this.vectors.get(slot)
    if (!vector) throw new EmporionError('not-found', { what: 'The sound to compare with has no measurements: it is silent, not measured yet, or was dropped before Emporion was restarted.', next: 'Choose another sound, or drop the file again.' })
    return vector
  }

  private order(by: SortBy, isDescending: boolean): Int32Array {
    const key = `${by} ${isDescending}`
    const known = this.orders.get(key)
    if (known?.revision === this.catalogue.orderRevision) return known.order
    const order = orderedBy(this.catalogue, by, isDescending)
    this.orders.set(key, { revision: this.catalogue.orderRevision, order })
    return order
  }
}

/** The text of a search as a tree. @throws EmporionError `invalid` with the place where it can't be understood */
export function readSearch(search: Pick<Search, 'q' | 'middleC'>): ReadQuery {
  const read = parseQuery(search.q, search.middleC)
  const [problem] = read.problems
  if (problem) throw new EmporionError('invalid', { what: `${problem.message} (At character ${problem.from + 1}.)`, kept: 'The list was not changed.' })
  return read
}

/** The sound that a query asks others to be like, one recording with, or strokes of one instrument with. */
export function soundOf(query: Query, type: SoundCondition): string | undefined {
  if (query.type === type) return query.sound
  if (query.type === 'all' || query.type === 'any') return query.of.map(part => soundOf(part, type)).find(sound => sound !== undefined)
  return query.type === 'not' ? soundOf(query.of, type) : undefined
}
