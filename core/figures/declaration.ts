import type { Figures } from '../audio/analysis/figures'
import type { MiddleC } from '../audio/notes'

/** How a figure is asked for in the search line. */
export interface ConditionOfFigure {
  readonly does: string
  readonly example: string
  readonly unit?: 's' | 'LUFS' | 'dBTP' | 'Hz' | 'BPM' | 'note'
  /** Other words that people write for it. */
  readonly also?: readonly string[]
  /** True where it has no digits behind the point. */
  readonly isWhole?: boolean
  /** Values that have words of their own. */
  readonly words?: Readonly<Record<string, number>>
  /** What is written without a unit and is less than this stands for thousands. */
  readonly thousandsBelow?: number
}

/** A further condition on the same figure, in another unit. */
export interface OtherCondition extends ConditionOfFigure {
  readonly name: string
  /** From that unit to the one in which the figure is kept. */
  readonly toKept: (value: number) => number
}

/** Its column in the list of sounds; every one is sorted by its figure. */
export interface ListColumn {
  /** With the unit, which the cells leave out. */
  readonly title: string
  /** In pixels. */
  readonly width: number
  /** Columns of less weight give way first where the window is narrow. */
  readonly weight: number
  /** Shown as long as nobody chose otherwise. */
  readonly isUsual?: boolean
  /** True where its cells are words, which may be cut short. */
  readonly isWords?: boolean
}

/** Its bars among the filters. */
export interface FigureFacet {
  readonly title: string
  /** The lower end of the first bar, then the upper end of each. */
  readonly edges: readonly number[]
  /** What an end of a bar is called. */
  readonly label: (value: number, middleC: MiddleC) => string
}

/** Its line among all that is known of one sound. */
export interface DetailLine {
  readonly group: 'Level' | 'Time' | 'Colour'
  readonly label: string
  readonly explained?: string
  /** Not shown at all where there is none, in place of a dash. */
  readonly isLeftOut?: boolean
}

interface Declared {
  /** What it is called in the search line, in settings, in sorting and in lists that are written. */
  readonly name: string
  /** Shows it without its unit; undefined where a sound has none. */
  readonly text: (value: number, middleC: MiddleC) => string
  /** So much of what is kept is one of what is shown; 1 where absent. */
  readonly per?: number
  /** Follows the text where its unit is not in a title. */
  readonly unit?: string
  readonly detail?: DetailLine
}

/** A figure that is only shown among all that is known of one sound. */
export interface ShownFigure extends Declared {
  readonly detail: DetailLine
  readonly of: (figures: Figures) => number | null
}

/** A figure that has a column in the database and the catalogue, so that lists show it, and sort and search by it. */
export interface KeptFigure extends Declared {
  /** In rows of sounds; its column in the database is called the same in snake case. */
  readonly key: string
  readonly storage: 'real' | 'double precision' | 'integer'
  /** False where a sound may have none. */
  readonly isAlways: boolean
  /** Drawn out of what was measured; what is read of the file, or drawn together of several things, is written beside. */
  readonly of?: (figures: Figures) => number | null
  /** The figure that stands for it in searches and sorting as long as it is not known. */
  readonly instead?: string
  readonly condition: ConditionOfFigure
  readonly otherConditions?: readonly OtherCondition[]
  readonly list: ListColumn
  readonly facet?: FigureFacet
}
