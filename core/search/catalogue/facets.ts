import { FLAG_NAMES, STATES } from '../query/fields'
import { KINDS } from '../kinds'
import type { Bits } from './bits'
import type { Catalogue } from './catalogue'
import { byFacet, type FacetName } from '../../figures/register'
import { GRID_COLUMNS, GRID_ROWS } from './bars'
import { flagBit, MARK, NO_KIND } from './columns'

export interface Histogram {
  /** The lower end of the first bar, then the upper end of each. */
  readonly edges: readonly number[]
  readonly counts: readonly number[]
}

export interface Counted {
  readonly name: string
  readonly count: number
}

/** How many sounds each further condition would leave. */
export interface Facets {
  /** By the path of the kind itself, without its subkinds; `none` for unknown. */
  readonly kinds: readonly Counted[]
  readonly tags: readonly Counted[]
  readonly packs: readonly Counted[]
  readonly states: readonly Counted[]
  /** By brightness, dark first, then by length, short first. */
  readonly grid: readonly (readonly number[])[]
  readonly bars: Readonly<Record<FacetName, Histogram>>
}

const MOST_LISTED = 200
/** One more than all marks and flags of a sound together make. */
const ALL_MARKS = flagBit(FLAG_NAMES.length)
const STATE_MARKS = { favourite: MARK.favourite, aside: MARK.aside, used: MARK.used, damaged: MARK.damaged, copied: MARK.copied, measured: MARK.measured } as const

/**
 * Counts every facet.
 *
 * @param foundWithout the sounds that are found without the conditions of some names, so that a facet shows what else could
 *   be chosen in it
 */
export function countFacets(catalogue: Catalogue, foundWithout: (...fields: string[]) => Bits): Facets {
  const { columns } = catalogue
  // Most conditions are of no facet, so that most facets count the same set.
  const known = new Map<Bits, Int32Array>()
  const slotsWithout = (...fields: string[]) => {
    const found = foundWithout(...fields)
    const slots = known.get(found) ?? found.toArray()
    known.set(found, slots)
    return slots
  }
  return {
    kinds: kindCounts(catalogue, slotsWithout('kind')),
    tags: tagCounts(catalogue, slotsWithout('tag')),
    packs: packCounts(catalogue, slotsWithout('pack', 'in')),
    states: stateCounts(catalogue, slotsWithout('is')),
    grid: gridCounts(catalogue, slotsWithout('sounds', 'bright')),
    bars: byFacet((name, { edges }) => histogram(columns.bars[name], slotsWithout(name), edges)),
  }
}

function kindCounts({ columns }: Catalogue, found: Int32Array): Counted[] {
  const counts = tally(columns.kinds, found)
  const none = { name: 'none', count: counts[NO_KIND]! }
  return [...KINDS.map((kind, number) => ({ name: kind.path, count: counts[number]! })), none].filter(({ count }) => count > 0)
}

function tagCounts(catalogue: Catalogue, found: Int32Array): Counted[] {
  const counts = new Int32Array(catalogue.tagNames.length)
  for (const slot of found) {
    for (const tag of catalogue.tagsOf(slot)) counts[tag]!++
  }
  return mostOf([...counts].map((count, tag) => ({ name: catalogue.tagNames[tag]!, count })))
}

function packCounts(catalogue: Catalogue, found: Int32Array): Counted[] {
  const { names, ofFolder } = catalogue.packNumbers
  const counts = countPlaces(catalogue, found, folder => ofFolder[folder]!)
  return mostOf([...counts].map(([number, count]) => ({ name: names[number]!, count })))
}

/** A sound counts once in each place that it lies in. */
function countPlaces({ folders, furtherFolders, columns }: Catalogue, found: Int32Array, placeOf: (folder: number) => number): Map<number, number> {
  const inFolder = new Int32Array(folders.length)
  const counts = new Map<number, number>()
  const add = (place: number, count: number) => counts.set(place, (counts.get(place) ?? 0) + count)
  for (const slot of found) {
    const further = furtherFolders.size > 0 ? furtherFolders.get(slot) : undefined
    if (further) new Set(further.map(placeOf)).forEach(place => add(place, 1))
    else if (columns.folders[slot]! >= 0) inFolder[columns.folders[slot]!]!++
  }
  inFolder.forEach((count, folder) => count > 0 && add(placeOf(folder), count))
  return counts
}

function stateCounts({ columns }: Catalogue, found: Int32Array): Counted[] {
  const names = [...STATES.map(({ name }) => ({ name, bit: STATE_MARKS[name] })), ...FLAG_NAMES.map((name, place) => ({ name, bit: flagBit(place) }))]
  const together = new Int32Array(ALL_MARKS)
  for (const slot of found) together[columns.marks[slot]!]!++
  // Of all the ways in which marks could come together a few do.
  const met: number[] = []
  together.forEach((count, marks) => count > 0 && met.push(marks))
  const counts = names.map(({ name, bit }) => ({ name, count: met.reduce((sum, marks) => (marks & bit) !== 0 ? sum + together[marks]! : sum, 0) }))
  return counts.filter(({ count }) => count > 0)
}

function gridCounts({ columns }: Catalogue, found: Int32Array): number[][] {
  const counts = tally(columns.cells, found)
  return Array.from({ length: GRID_ROWS }, (_, row) => [...counts.subarray(row * GRID_COLUMNS, (row + 1) * GRID_COLUMNS)])
}

/** What is not known is counted in no bar. */
function histogram(bars: Uint8Array, found: Int32Array, edges: readonly number[]): Histogram {
  return { edges, counts: [...tally(bars, found).subarray(0, edges.length - 1)] }
}

/** How often each number stands in a column. */
function tally(column: Uint8Array, found: Int32Array): Int32Array {
  const counts = new Int32Array(256)
  for (const slot of found) counts[column[slot]!]!++
  return counts
}

function mostOf(counts: readonly Counted[]): Counted[] {
  return counts.filter(({ count }) => count > 0).sort((a, b) => b.count - a.count || (a.name < b.name ? -1 : 1)).slice(0, MOST_LISTED)
}
