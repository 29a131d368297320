import { FIGURE_NAMES } from '../../figures/register'
import type { Catalogue } from './catalogue'
import { NO_KIND } from './columns'

/** What a list can be sorted by. */
export const SORTS = ['name', 'kind', 'folder', ...FIGURE_NAMES, 'added'] as const
export type SortBy = typeof SORTS[number]

const LAST = 0xFFFFFFFF
/** Room for the place by name below the 32 bits of a figure: together they fit into a whole double. */
const PLACES = 2 ** 21

/** All slots in the order of a figure, those of equal figures by name. What has no such figure comes last, either way. */
export function orderedBy(catalogue: Catalogue, by: SortBy, isDescending: boolean): Int32Array {
  const { byName } = catalogue
  if (by === 'name') return isDescending ? byName.toReversed() : byName
  const figure = figureFor(catalogue, by)
  const keys = new Float64Array(byName.length)
  for (let place = 0; place < byName.length; place++) {
    const value = figure(byName[place]!)
    keys[place] = (isDescending && value !== LAST ? LAST - 1 - value : value) * PLACES + place
  }
  keys.sort()
  return Int32Array.from(keys, key => byName[key % PLACES]!)
}

/** A figure as a whole number of 32 bits that sorts as the figure does. */
function figureFor({ columns, folders, sourceNames }: Catalogue, by: Exclude<SortBy, 'name'>): (slot: number) => number {
  switch (by) {
    case 'kind':
      return slot => columns.kinds[slot] === NO_KIND ? LAST : columns.kinds[slot]!
    case 'added':
      return slot => columns.added[slot]!
    case 'folder': {
      const paths = folders.map((folder, number) => ({ number, path: `${sourceNames.get(folder.sourceId) ?? ''}/${folder.path}`.toLowerCase() }))
      const ranks = new Uint32Array(folders.length)
      paths.sort((a, b) => a.path < b.path ? -1 : a.path > b.path ? 1 : 0).forEach(({ number }, rank) => ranks[number] = rank)
      return slot => ranks[columns.folders[slot]!] ?? LAST
    }
    default:
      return sortable(columns.figures[by])
  }
}

/** The bits of a float turned so that they sort as whole numbers: negative ones are inverted, for others the sign is set (IEEE 754). */
function sortable(figures: Float32Array): (slot: number) => number {
  const bits = new Int32Array(figures.buffer, figures.byteOffset, figures.length)
  return (slot) => {
    if (Number.isNaN(figures[slot]!)) return LAST
    const value = bits[slot]!
    return value < 0 ? ~value >>> 0 : (value | 0x80000000) >>> 0
  }
}
