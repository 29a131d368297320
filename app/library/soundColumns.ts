import type { KeptFigure } from '~~/core/figures/declaration'
import { KEPT_FIGURES, type FigureName } from '~~/core/figures/register'
import type { SortBy } from '~~/core/search/catalogue/order'
import type { LedgerColumn } from '../parts/LedgerTable.vue'
import type { ColumnChoice } from '../parts/settings'

type Kept = KeptFigure & { readonly name: FigureName }

/** A column of the list of sounds. */
export interface SoundColumn extends LedgerColumn {
  readonly sort?: SortBy
  /** Shown as long as nobody chose otherwise. */
  readonly isUsual?: boolean
}

const FIGURE_COLUMNS = KEPT_FIGURES.map(({ name, list: { isWords, ...column } }: Kept): SoundColumn => ({ key: name, sort: name, align: isWords ? undefined : 'right', ...column }))

/** All columns that the list can have. */
export const SOUND_COLUMNS: readonly SoundColumn[] = [
  { key: 'wave', title: 'Waveform', width: 84, isUsual: true, weight: 6 },
  { key: 'name', title: 'Name', width: 104, grows: true, sort: 'name', isUsual: true },
  { key: 'kind', title: 'Kind', width: 104, sort: 'kind', isUsual: true, weight: 8 },
  ...FIGURE_COLUMNS.filter(column => column.isUsual),
  { key: 'folder', title: 'Folder', width: 130, grows: true, sort: 'folder', isUsual: true, weight: 5 },
  ...FIGURE_COLUMNS.filter(column => !column.isUsual),
  { key: 'tags', title: 'Tags', width: 120, weight: 4 },
  { key: 'added', title: 'Added', width: 92, sort: 'added', weight: 2 },
]

/** How near each is, in place of the folder, where sounds are listed by that. */
export const ALIKE_COLUMN: SoundColumn = { key: 'alike', title: 'Alike (length, colour, pitch), %', width: 204, weight: 9 }

/** The columns that were chosen, in their order and widths; the usual ones where nothing was chosen. */
export function chosenColumns(choices: readonly ColumnChoice[]): SoundColumn[] {
  if (choices.length === 0) return SOUND_COLUMNS.filter(column => column.isUsual)
  return choices.flatMap(({ key, width }) => {
    const column = SOUND_COLUMNS.find(candidate => candidate.key === key)
    return column ? [width === undefined ? column : { ...column, width, grows: false }] : []
  })
}
