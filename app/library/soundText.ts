import type { MiddleC } from '~~/core/audio/notes'
import { byFigure, figureText } from '~~/core/figures/register'
import type { FoundRow } from '~~/contract/library'

interface TextColumn {
  readonly text: (row: FoundRow, middleC: MiddleC) => string
  /** Words may be cut short, figures not. */
  readonly isWords: boolean
}

/** Columns that say all they have to say in words and figures; units stand in their titles. The others are drawn by `SoundCell`. */
const TEXTS: Readonly<Record<string, TextColumn>> = {
  ...byFigure((figure): TextColumn => ({ text: (row, middleC) => figureText(figure, row[figure.key], middleC), isWords: figure.list.isWords ?? false })),
  folder: { text: row => row.folder, isWords: true },
  tags: { text: row => row.tags.join(', '), isWords: true },
  added: { text: row => row.addedAt.slice(0, 10), isWords: false },
}

/** What a column says of a sound, where that is text alone. */
export function soundText(column: string, row: FoundRow, middleC: MiddleC): string | undefined {
  return TEXTS[column]?.text(row, middleC)
}

/** Whether a column's text is words, which may be cut short, or a figure. */
export function isWords(column: string): boolean {
  return TEXTS[column]?.isWords ?? false
}
