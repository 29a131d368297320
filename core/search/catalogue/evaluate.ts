import { fold } from '../tokens'
import { queryWords } from '../words'
import { FLAG_NAMES } from '../query/fields'
import { figureOfCondition, type NumberCondition } from '../../figures/register'
import type { Query, Range, State } from '../query/tree'
import { Bits } from './bits'
import { namedWords, type Catalogue } from './catalogue'
import { flagBit, MARK } from './columns'
import { kindBits } from './kindBits'
import { MeaningOfWords } from './meaning'

/** What a search needs to know beside the catalogue. */
export interface SearchContext {
  readonly nowMs: number
  /** The sounds that are one recording with another, or strokes of one instrument, by their ids. */
  readonly relatedTo: (by: 'same' | 'family', id: number) => readonly number[]
}

const DAY_MS = 86_400_000

const STATE_MARKS: Readonly<Record<State, number>> = {
  favourite: MARK.favourite, aside: MARK.aside, used: MARK.used, damaged: MARK.damaged, copied: MARK.copied, measured: MARK.measured,
}

/**
 * The sounds of which a query is true. A word is found where a word of the sound begins so; and, unless it is asked that
 * something is not so, in sounds of the kind that it means.
 */
export function evaluate(catalogue: Catalogue, query: Query, context: SearchContext, isNegated = false): Bits {
  const { size, columns } = catalogue
  switch (query.type) {
    case 'all':
      return query.of.reduce((found, part) => found.keep(evaluate(catalogue, part, context, isNegated)), Bits.full(size))
    case 'any':
      return query.of.reduce((found, part) => found.join(evaluate(catalogue, part, context, isNegated)), new Bits(size))
    case 'not':
      return Bits.full(size).subtract(evaluate(catalogue, query.of, context, true))
    case 'word': {
      const found = catalogue.words.beginning(query.word, size)
      return isNegated ? found : found.join(new MeaningOfWords(catalogue, [query.word]).of(0))
    }
    case 'phrase':
      return phrase(catalogue, query.words)
    case 'kind':
      return kindBits(catalogue, query.path)
    case 'tag': {
      const wanted = new Set(catalogue.tagNames.flatMap((tag, number) => fold(tag.normalize('NFC')) === query.tag ? [number] : []))
      return wanted.size === 0 ? new Bits(size) : Bits.where(size, slot => catalogue.tagsOf(slot).some(tag => wanted.has(tag)))
    }
    case 'source': {
      const names = [...catalogue.sourceNames]
      const isMeant = meant(names.map(([, name]) => name), query.name)
      const ids = new Set(names.flatMap(([id], i) => isMeant[i] ? [id] : []))
      return catalogue.inFolders(folder => ids.has(folder.sourceId))
    }
    case 'pack': {
      const { names, ofFolder } = catalogue.packNumbers
      const isMeant = meant(names, query.name)
      return catalogue.inFolders((_, number) => isMeant[ofFolder[number]!]!)
    }
    case 'folder': {
      const sources = new Map([...catalogue.sourceNames].map(([id, name]) => [id, name.split('/').map(namedWords)]))
      const wanted = query.folders.map(folder => queryWords(folder, true))
      return catalogue.inFolders(folder => holdsRun([...sources.get(folder.sourceId) ?? [], ...folder.parts], wanted, holdsWords))
    }
    case 'number':
      return inRange(catalogue, query.field, query.range)
    case 'flag':
      return catalogue.marked(flagBit(FLAG_NAMES.indexOf(query.flag)))
    case 'state':
      return catalogue.marked(STATE_MARKS[query.state])
    case 'since': {
      const from = Math.floor(('atMs' in query ? query.atMs : context.nowMs - query.daysAgo * DAY_MS) / 1000)
      return Bits.where(size, slot => columns.added[slot]! >= from)
    }
    case 'same':
    case 'family': {
      const found = new Bits(size)
      for (const id of context.relatedTo(query.type, Number(query.sound))) {
        const slot = catalogue.slotOf(id)
        if (slot !== undefined) found.add(slot)
      }
      return found
    }
    // Which are near is told by the order of the result, not here.
    case 'like':
      return Bits.full(size)
  }
}

function phrase(catalogue: Catalogue, words: readonly string[]): Bits {
  const { size } = catalogue
  // The last word may go on: a phrase is found while it is typed.
  const last = words.length - 1
  const holding = words.reduce((found, word, i) => found.keep(i === last ? catalogue.words.beginning(word, size) : catalogue.words.whole(word, size)), Bits.full(size))
  if (words.length === 1) return catalogue.words.whole(words[0]!, size)
  const found = new Bits(size)
  const wanted = ` ${words.join(' ')}`
  holding.each((slot) => {
    if (` ${catalogue.textOf(slot)}`.includes(wanted)) found.add(slot)
  })
  return found
}

/** What is not known is in no range. */
function inRange({ columns, size }: Catalogue, condition: NumberCondition, range: Range): Bits {
  const { figure, toKept } = figureOfCondition(condition)
  const end = (value: number | undefined, open: number) => value === undefined ? open : Math.fround(toKept(value))
  const low = end(range.low, -Infinity)
  const high = end(range.high, Infinity)
  return Bits.between(columns.figures[figure], range.above ? nextFloat(low, 1) : low, range.below ? nextFloat(high, -1) : high, size)
}

const float = new Float32Array(1)
const floatBits = new Int32Array(float.buffer)

/** The next number of 32 bits above or below a finite one: floats of one sign are ordered as their bits are (IEEE 754). */
function nextFloat(value: number, step: 1 | -1): number {
  if (!Number.isFinite(value)) return value
  float[0] = value
  if (value === 0) floatBits[0] = step > 0 ? 1 : 1 - 2 ** 31
  else floatBits[0]! += value > 0 ? step : -step
  return float[0]
}

/** True where some items follow one another in a row of items. */
function holdsRun<Item, Wanted>(items: readonly Item[], run: readonly Wanted[], fits: (item: Item, wanted: Wanted) => boolean): boolean {
  return items.some((_, start) => run.every((wanted, i) => start + i < items.length && fits(items[start + i]!, wanted)))
}

/** True where words of a name begin like those wanted, in their order; never where none is wanted. */
function holdsWords(name: readonly string[], wanted: readonly string[]): boolean {
  return wanted.length > 0 && holdsRun(name, wanted, (word, beginning) => word.startsWith(beginning))
}

/** Which of some names are meant by a text: the one that is called so, or those with its words. */
function meant(names: readonly string[], text: string): boolean[] {
  const isCalledSo = names.map(name => fold(name.normalize('NFC')) === text)
  if (isCalledSo.includes(true)) return isCalledSo
  const wanted = queryWords(text, true)
  return names.map(name => holdsWords(namedWords(name), wanted))
}
