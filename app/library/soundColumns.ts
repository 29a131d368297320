import type { SortBy } from '~~/core/search/catalogue/order'
import type { LedgerColumn } from '../parts/LedgerTable.vue'
import type { ColumnChoice } from '../parts/settings'

/** A column of the list of sounds. */
export interface SoundColumn extends LedgerColumn {
  readonly sort?: SortBy
  /** Shown as long as nobody chose otherwise. */
  readonly isUsual?: boolean
}

/** All columns that the list can have. */
export const SOUND_COLUMNS: readonly SoundColumn[] = [
  { key: 'wave', title: 'Waveform', width: 84, isUsual: true, weight: 6 },
  { key: 'name', title: 'Name', width: 104, grows: true, sort: 'name', isUsual: true },
  { key: 'kind', title: 'Kind', width: 104, sort: 'kind', isUsual: true, weight: 8 },
  { key: 'sounds', title: 'Length heard, s', width: 104, align: 'right', sort: 'sounds', isUsual: true, weight: 9 },
  { key: 'loudness', title: 'Loudness, LUFS', width: 108, align: 'right', sort: 'loudness', isUsual: true, weight: 7 },
  { key: 'bright', title: 'Bright', width: 52, align: 'right', sort: 'bright', isUsual: true, weight: 4 },
  { key: 'folder', title: 'Folder', width: 130, grows: true, sort: 'folder', isUsual: true, weight: 5 },
  { key: 'length', title: 'Length, s', width: 72, align: 'right', sort: 'length', weight: 5 },
  { key: 'note', title: 'Pitch', width: 74, align: 'right', sort: 'note', weight: 5 },
  { key: 'tempo', title: 'Tempo, BPM', width: 84, align: 'right', sort: 'tempo', weight: 5 },
  { key: 'peak', title: 'True peak, dBTP', width: 108, align: 'right', sort: 'peak', weight: 4 },
  { key: 'rate', title: 'Rate, kHz', width: 72, align: 'right', sort: 'rate', weight: 3 },
  { key: 'bits', title: 'Depth, bit', width: 72, align: 'right', sort: 'bits', weight: 3 },
  { key: 'channels', title: 'Channels', width: 66, sort: 'channels', weight: 3 },
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
