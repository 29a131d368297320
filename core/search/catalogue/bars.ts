/** Upper ends of the lengths of the character grid, in seconds; what is longer comes last. */
export const GRID_SECONDS = [0.1, 0.2, 0.4, 0.8, 1.6, 3.2] as const
/** Rows of the character grid: ten steps of brightness each. */
export const GRID_ROWS = 10
export const GRID_COLUMNS = GRID_SECONDS.length + 1

/** Stands for what is not known and so lies in no bar. */
export const NO_BAR = 255

/** The bar of a value; what lies beyond the ends is counted in the first and the last. */
export function barOf(edges: readonly number[], value: number): number {
  if (Number.isNaN(value)) return NO_BAR
  let bar = 0
  while (bar < edges.length - 2 && value >= edges[bar + 1]!) bar++
  return bar
}

/** The cell of the character grid, row by row from the dark ones. */
export function cellOf(seconds: number, brightness: number): number {
  if (Number.isNaN(brightness)) return NO_BAR
  let column = 0
  while (column < GRID_SECONDS.length && seconds > GRID_SECONDS[column]!) column++
  return Math.min(GRID_ROWS - 1, Math.floor(brightness / 10)) * GRID_COLUMNS + column
}
