import { FLAG_NAMES } from '../query/fields'
import { KEPT_FIGURES } from '../../figures/register'
import { KINDS } from '../kinds'
import { searchText } from '../tokens'
import { barOf, cellOf, GRID_ROWS, GRID_SECONDS, NO_BAR } from './bars'
import { Columns, marksOf, MARK, NO_KIND } from './columns'
import { WordIndex } from './wordIndex'

/**
 * All that gives the columns of a catalogue their meaning, as one text: what was written down under another one is of no use. Code that
 * works columns out counts as well, by its own text.
 */
export function columnMeaning(): string {
  return JSON.stringify([
    KEPT_FIGURES, KINDS.map(kind => kind.path), FLAG_NAMES, MARK, NO_KIND, NO_BAR, GRID_ROWS, GRID_SECONDS,
    ...[Columns, marksOf, barOf, cellOf, searchText, WordIndex].map(code => code.toString()),
  ])
}
