/** A stretch of values from 0 to 127, both ends meant. */
export interface ValueRange {
  readonly low: number
  readonly high: number
}

const VALUES = 128

/**
 * Cuts 0 to 127 into ranges of one width; what does not divide goes to the last. Source: common practice (references.md,
 * "equal ranges").
 *
 * @param count 1 to 128
 */
export function equalRanges(count: number): ValueRange[] {
  const width = Math.floor(VALUES / count)
  return Array.from({ length: count }, (_, i) => ({ low: i * width, high: i === count - 1 ? VALUES - 1 : (i + 1) * width - 1 }))
}

/** The same for velocities, which begin at 1: a note-on with velocity 0 is a note-off (MIDI 1.0). */
export function velocityRanges(count: number): ValueRange[] {
  // Of more than 64 each has one velocity, the last what is left.
  return equalRanges(count).map(({ low, high }, i) => count <= VALUES / 2 ? { low: Math.max(1, low), high } : { low: Math.min(VALUES - 1, i + 1), high: i === count - 1 ? VALUES - 1 : i + 1 })
}

/** Which of so many equal ranges holds a value from 0 to 127, from 0. Nothing holds it where there are none: 0 then. */
export function rangeAt(value: number, count: number): number {
  return count < 1 ? 0 : Math.min(count - 1, Math.floor(value / Math.floor(VALUES / count)))
}
