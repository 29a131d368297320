import type { SortBy } from '~~/core/search/catalogue/order'
import type { LedgerColumn } from '../common/LedgerTable.vue'
import type { ColumnChoice } from '../../stores/settings'

/** A column of the list of sounds. */
export interface SoundColumn extends LedgerColumn {
  readonly sort?: SortBy
  /** Shown as long as nobody chose otherwise. */
  readonly isUsual?: boolean
}

/** All columns that the list can have. */
export const SOUND_COLUMNS: readonly SoundColumn[] = [
  { key: 'wave', title: 'Waveform', width: 84, isUsual: true },
  { key: 'name', title: 'Name', width: 104, grows: true, sort: 'name', isUsual: true },
  { key: 'kind', title: 'Kind', width: 104, sort: 'kind', isUsual: true },
  { key: 'sounds', title: 'Length heard', width: 96, align: 'right', sort: 'sounds', isUsual: true },
  { key: 'loudness', title: 'Loudness', width: 90, align: 'right', sort: 'loudness', isUsual: true },
  { key: 'bright', title: 'Bright', width: 52, align: 'right', sort: 'bright', isUsual: true },
  { key: 'folder', title: 'Folder', width: 130, grows: true, sort: 'folder', isUsual: true },
  { key: 'length', title: 'Length', width: 64, align: 'right', sort: 'length' },
  { key: 'note', title: 'Pitch', width: 74, align: 'right', sort: 'note' },
  { key: 'tempo', title: 'Tempo', width: 72, align: 'right', sort: 'tempo' },
  { key: 'peak', title: 'True peak', width: 88, align: 'right', sort: 'peak' },
  { key: 'rate', title: 'Rate', width: 72, align: 'right', sort: 'rate' },
  { key: 'bits', title: 'Bits', width: 44, align: 'right', sort: 'bits' },
  { key: 'channels', title: 'Channels', width: 66, sort: 'channels' },
  { key: 'tags', title: 'Tags', width: 120 },
  { key: 'added', title: 'Added', width: 92, sort: 'added' },
]

/** How near each is, in place of the folder, where sounds are listed by that. */
export const ALIKE_COLUMN: SoundColumn = { key: 'alike', title: 'Alike (length, colour, pitch)', width: 204 }

/** The columns that were chosen, in their order and widths; the usual ones where nothing was chosen. */
export function chosenColumns(choices: readonly ColumnChoice[]): SoundColumn[] {
  if (choices.length === 0) return SOUND_COLUMNS.filter(column => column.isUsual)
  return choices.flatMap(({ key, width }) => {
    const column = SOUND_COLUMNS.find(candidate => candidate.key === key)
    return column ? [width === undefined ? column : { ...column, width, grows: false }] : []
  })
}
