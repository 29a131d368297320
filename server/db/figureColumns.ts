import { customType } from 'drizzle-orm/pg-core'
import type { KeptFigure } from '../../core/figures/declaration'
import { KEPT_FIGURES, type FigureKey, type FigureValues } from '../../core/figures/register'

const figure = customType<{ data: number, driverData: number | string, config: Pick<KeptFigure, 'storage'>, configRequired: true }>({
  dataType: ({ storage }) => storage,
  fromDriver: Number,
})

const maybe = (declared: KeptFigure) => figure(columnOfFigure(declared.key), declared)
const always = (declared: KeptFigure) => maybe(declared).notNull()

type FigureColumns = { readonly [Key in FigureKey]: null extends FigureValues[Key] ? ReturnType<typeof maybe> : ReturnType<typeof always> }

/** What the column of a figure is called in the database. */
export function columnOfFigure(key: string): string {
  return key.replace(/[A-Z]/g, letter => `_${letter.toLowerCase()}`)
}

/** A column for each figure that is kept. */
export function figureColumns(): FigureColumns {
  return Object.fromEntries(KEPT_FIGURES.map((declared: KeptFigure) => [declared.key, declared.isAlways ? always(declared) : maybe(declared)])) as FigureColumns
}

/** The columns of the figures out of those of a table. */
export function figuresOf<T extends Readonly<Record<FigureKey, unknown>>>(columns: T): Pick<T, FigureKey> {
  return Object.fromEntries(KEPT_FIGURES.map(({ key }) => [key, columns[key]])) as Pick<T, FigureKey>
}
