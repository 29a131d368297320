/** A column that can be left out where there is no room for all. */
export interface GivingColumn {
  readonly width: number
  /** Where room is short those of the least weight go first; without one it stays. */
  readonly weight?: number
}

/**
 * The columns that fit side by side: while they do not, the one of the least weight is left out. Those without a weight stay, even
 * where they do not fit.
 *
 * @param room in pixels; 0 as long as it is not known, when all are kept
 */
export function fitting<C extends GivingColumn>(columns: readonly C[], room: number): readonly C[] {
  let kept = columns
  const width = () => kept.reduce((sum, column) => sum + column.width, 0)
  while (room > 0 && width() > room) {
    const lightest = kept.filter(column => column.weight !== undefined).toSorted((a, b) => a.weight! - b.weight!)[0]
    if (!lightest) break
    kept = kept.filter(column => column !== lightest)
  }
  return kept
}
