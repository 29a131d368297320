import { FLAG_NAMES } from '../query/fields'
import { KINDS } from '../kinds'
import { byFacet, byFigure, FIGURE_NAMES, KEPT_FIGURES, type FacetName, type FigureName } from '../../figures/register'
import { barOf, cellOf } from './bars'
import type { CatalogueRow } from './row'

/** Stands for a kind that is not known; comes last in every order. */
export const NO_KIND = 255
export const KIND_NUMBERS: ReadonlyMap<string, number> = new Map(KINDS.map((kind, number) => [kind.path, number]))

/** What a sound is, one bit each. The flags of its figures come after these. */
export const MARK = { listed: 1, favourite: 2, aside: 4, used: 8, damaged: 16, copied: 32, measured: 64 } as const
const FIRST_FLAG = 7

export function flagBit(place: number): number {
  return 1 << FIRST_FLAG + place
}

const INSTEAD = KEPT_FIGURES.flatMap(figure => 'instead' in figure ? [[figure.name, figure.instead] as const] : []) satisfies readonly (readonly [FigureName, FigureName])[]
const BARS = KEPT_FIGURES.flatMap(figure => 'facet' in figure ? [[figure.name, figure.facet.edges] as const] : []) satisfies readonly (readonly [FacetName, readonly number[]])[]

/** The columns beside the figures. */
const PLAIN = ['ids', 'kinds', 'marks', 'added', 'folders', 'cells'] as const
/** Those of them that lists are sorted by. */
const PLAIN_ORDERS = ['kinds', 'added', 'folders'] as const

export type SavedColumns = Readonly<Pick<Columns, typeof PLAIN[number] | 'figures' | 'bars'>>

type Numbers = Float32Array | Int32Array | Uint8Array | Uint32Array

/** What is known of all sounds, a column each. Their places are called slots. */
export class Columns {
  private room = 1024
  ids = new Int32Array(this.room)
  kinds = new Uint8Array(this.room)
  marks = new Int32Array(this.room)
  added = new Uint32Array(this.room)
  /** By the names of the register; what is not known is NaN, or the figure that stands for it. */
  figures = byFigure(() => new Float32Array(this.room))
  /** Where each lies in the bars of the facets, and in the character grid, worked out once: see `bars.ts`. */
  bars = byFacet(() => new Uint8Array(this.room))
  cells = new Uint8Array(this.room)
  /** The first of a sound's folders, by its number. */
  folders = new Int32Array(this.room)

  /** Writes a row, of one that is known over what was there. Gives true where something is another by which lists are sorted. */
  write(slot: number, row: CatalogueRow, folder: number, isKnown: boolean): boolean {
    if (slot >= this.room) this.grow(slot + 1)
    const before = isKnown ? this.ordersOf(slot) : undefined
    this.ids[slot] = row.id
    this.kinds[slot] = row.kind === null ? NO_KIND : KIND_NUMBERS.get(row.kind) ?? NO_KIND
    this.marks[slot] = marksOf(row) | this.marks[slot]! & MARK.used
    for (const { name, key } of KEPT_FIGURES) this.figures[name][slot] = row[key] ?? Number.NaN
    for (const [name, instead] of INSTEAD) if (Number.isNaN(this.figures[name][slot]!)) this.figures[name][slot] = this.figures[instead][slot]!
    this.added[slot] = row.addedSeconds
    this.folders[slot] = folder
    for (const [name, edges] of BARS) this.bars[name][slot] = barOf(edges, this.figures[name][slot]!)
    this.cells[slot] = cellOf(this.figures.sounds[slot]!, this.figures.bright[slot]!)
    return before === undefined || this.ordersOf(slot).some((value, i) => !Object.is(value, before[i]))
  }

  /** All that lists are sorted by. */
  private ordersOf(slot: number): (number | undefined)[] {
    return [...PLAIN_ORDERS.map(name => this[name][slot]), ...FIGURE_NAMES.map(name => this.figures[name][slot])]
  }

  /** The first so many rows of every column, to be written down. */
  save(size: number): SavedColumns {
    return this.each(column => column.slice(0, size))
  }

  /** Takes rows up that were written down. */
  restore(saved: SavedColumns): void {
    this.room = Math.max(this.room, saved.ids.length)
    Object.assign(this, saved)
    this.grow(this.room + 1)
  }

  private grow(least: number): void {
    this.room = Math.max(least, Math.ceil(this.room * 1.5))
    Object.assign(this, this.each((column) => {
      const made = new (column.constructor as new (length: number) => Numbers)(this.room)
      made.set(column)
      return made
    }))
  }

  /** Every column made anew. */
  private each(make: (column: Numbers) => Numbers): SavedColumns {
    const all = (columns: Readonly<Record<string, Numbers>>) => Object.fromEntries(Object.entries(columns).map(([name, column]) => [name, make(column)]))
    return { ...all(Object.fromEntries(PLAIN.map(name => [name, this[name]]))), figures: all(this.figures), bars: all(this.bars) } as unknown as SavedColumns
  }
}

export function marksOf(row: CatalogueRow): number {
  const flags = row.flags.reduce((bits, flag) => bits | flagBit(FLAG_NAMES.indexOf(flag)), 0)
  return flags
    | (row.isListed ? MARK.listed : 0)
    | (row.favourite ? MARK.favourite : 0)
    | (row.aside ? MARK.aside : 0)
    | (row.isDamaged ? MARK.damaged : 0)
    | (row.fileCount > 1 ? MARK.copied : 0)
    | (row.isMeasured ? MARK.measured : 0)
}
