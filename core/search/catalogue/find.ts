import type { Query, QueryPart, ReadQuery, State } from '../query/tree'
import { Bits } from './bits'
import type { Catalogue } from './catalogue'
import { MARK } from './columns'
import { evaluate, type SearchContext } from './evaluate'
import { countFacets, type Facets } from './facets'
import { MeaningOfWords } from './meaning'

/** Where is looked: everywhere, in a source, or in a folder of it and what lies below. */
export interface Scope {
  readonly sourceId?: number
  readonly folder?: string
}

/** How a sound was found. */
export type FoundBy = 'words' | 'kind' | 'near'

/** Sounds that a filter keeps out of a result. */
export interface Hidden {
  /** Set aside, and not asked for. */
  readonly aside: number
  /** Outside of the scope. */
  readonly elsewhere: number
  /** How many more there were without each part of the query, in its order. */
  readonly byPart: readonly number[]
}

/** Fewer than so many, and words that are spelled nearly so are looked for as well. */
const FEW = 100
/** So many times more than were found, and it takes longer to go through all than to sort what was found. */
const MANY_TIMES = 16

/**
 * A search carried out: what was found, by what, what is hidden, and the facets. Everything is a set of slots, so that leaving
 * one condition out costs next to nothing.
 */
export class Found {
  /** All that was found. */
  readonly all: Bits
  readonly byWords: Bits
  /** Found by the kind that the words mean, or by words as well. */
  readonly byKind: Bits

  private readonly parts: readonly { readonly part: QueryPart, readonly bits: Bits }[]
  private readonly text: Bits
  private readonly inScope: Bits
  private readonly notAside: Bits
  private readonly listed: Bits
  private readonly showsAside: boolean

  constructor(private readonly catalogue: Catalogue, private readonly read: ReadQuery, scope: Scope, context: SearchContext) {
    const words = read.parts.flatMap(part => wordsOf(part.query))
    this.listed = catalogue.marked(MARK.listed)
    this.showsAside = asksForState(read.query, 'aside')
    this.notAside = this.showsAside ? Bits.full(catalogue.size) : Bits.full(catalogue.size).subtract(catalogue.marked(MARK.aside))
    this.inScope = scopeBits(catalogue, scope)
    this.parts = read.parts.filter(part => wordsOf(part.query).length === 0).map(part => ({ part, bits: evaluate(catalogue, part.query, context) }))
    const base = this.restrict(Bits.full(catalogue.size), {})
    const exact = words.map(word => catalogue.words.beginning(word, catalogue.size))
    const meaning = new MeaningOfWords(catalogue, words)
    const meant = exact.map((bits, place) => bits.copy().join(meaning.of(place)))
    this.byWords = intersection(exact, catalogue.size)
    this.byKind = intersection(meant, catalogue.size)
    const isFew = words.length > 0 && base.countWith(this.byKind) < FEW
    this.text = isFew ? this.byKind.copy().join(intersection(meant.map((bits, place) => bits.copy().join(catalogue.words.near(words[place]!, catalogue.size))), catalogue.size)) : this.byKind
    this.all = base.copy().keep(this.text)
  }

  /** How many were found by the words themselves, by the kind they mean, and by words that are spelled nearly so. */
  get counts(): Readonly<Record<FoundBy, number>> {
    const words = this.all.countWith(this.byWords)
    const byKind = this.all.countWith(this.byKind)
    return { words, kind: byKind - words, near: this.all.count() - byKind }
  }

  foundBy(slot: number): FoundBy {
    return this.byWords.has(slot) ? 'words' : this.byKind.has(slot) ? 'kind' : 'near'
  }

  /** The slots found in an order, those found by the words themselves first, then by the kind they mean, then the nearly alike. */
  inOrder(order: Int32Array): Int32Array {
    const { all, byWords, byKind } = this
    const { words, kind } = this.counts
    const sorted = new Int32Array(all.count())
    let [first, second, third] = [0, words, words + kind]
    for (const slot of sorted.length < all.size / MANY_TIMES ? fewInOrder(all.toArray(), order) : order) {
      if (!all.has(slot)) continue
      if (byWords.has(slot)) sorted[first++] = slot
      else if (byKind.has(slot)) sorted[second++] = slot
      else sorted[third++] = slot
    }
    return sorted
  }

  hidden(): Hidden {
    const total = this.all.count()
    return {
      aside: this.showsAside ? 0 : this.restrict(this.text.copy(), { aside: true }).count() - total,
      elsewhere: this.restrict(this.text.copy(), { scope: true }).count() - total,
      byPart: this.read.parts.map((part) => {
        const own = this.parts.find(candidate => candidate.part === part)
        return own ? this.restrict(this.text.copy(), { parts: [own.part] }).count() - total : 0
      }),
    }
  }

  facets(): Facets {
    return countFacets(this.catalogue, (...fields) => {
      const own = this.read.parts.filter(part => part.field !== undefined && !part.isExcluded && fields.includes(part.field))
      return own.length === 0 ? this.all : this.restrict(this.text.copy(), { parts: own })
    })
  }

  /** Keeps of a set what all filters leave, some of them left out. */
  private restrict(bits: Bits, without: { readonly parts?: readonly QueryPart[], readonly aside?: true, readonly scope?: true }): Bits {
    bits.keep(this.listed)
    if (!without.aside) bits.keep(this.notAside)
    if (!without.scope) bits.keep(this.inScope)
    for (const { part, bits: own } of this.parts) if (!without.parts?.includes(part)) bits.keep(own)
    return bits
  }
}

const ranksOf = new WeakMap<Int32Array, Int32Array>()

/** A few slots in an order: by their places in it, which takes less than to go through all of it. */
function fewInOrder(slots: Int32Array, order: Int32Array): Int32Array {
  let ranks = ranksOf.get(order)
  if (!ranks) {
    ranks = new Int32Array(order.length)
    for (let place = 0; place < order.length; place++) ranks[order[place]!] = place
    ranksOf.set(order, ranks)
  }
  const places = slots.map(slot => ranks[slot]!).sort()
  return places.map(place => order[place]!)
}

/** The plain words of a part that asks for nothing else. */
function wordsOf(query: Query): string[] {
  if (query.type === 'word') return [query.word]
  return query.type === 'all' && query.of.length > 0 && query.of.every(part => part.type === 'word') ? query.of.flatMap(wordsOf) : []
}

/** True where a query asks for a state, or, where it may not be so, against it. */
export function asksForState(query: Query, state: State, isNegatedToo = false): boolean {
  switch (query.type) {
    case 'all':
    case 'any':
      return query.of.some(part => asksForState(part, state, isNegatedToo))
    case 'not':
      return isNegatedToo && asksForState(query.of, state, true)
    case 'state':
      return query.state === state
    default:
      return false
  }
}

function scopeBits(catalogue: Catalogue, { sourceId, folder }: Scope): Bits {
  if (sourceId === undefined) return Bits.full(catalogue.size)
  const within = folder === undefined || folder === '' ? undefined : `${folder}/`
  return catalogue.inFolders(candidate => candidate.sourceId === sourceId && (within === undefined || `${candidate.path}/`.startsWith(within)))
}

function intersection(sets: readonly Bits[], size: number): Bits {
  return sets.reduce((all, next) => all.keep(next), Bits.full(size))
}
