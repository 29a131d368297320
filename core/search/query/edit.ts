import { quoted } from './lex'
import type { QueryPart, ReadQuery } from './tree'

/** The parts of a text that are conditions of one name, excluded ones or the others. */
export function partsOf(read: ReadQuery, field: string, isExcluded = false): QueryPart[] {
  return read.parts.filter(part => part.field === field && part.isExcluded === isExcluded)
}

/** A text without one of its parts. */
export function withoutPart(text: string, part: Pick<QueryPart, 'from' | 'to'>): string {
  return joined(text.slice(0, part.from), text.slice(part.to))
}

/**
 * A text in which a condition stands once, in the place of those of its name that stood there; without them where it is
 * undefined. Excluded conditions of that name stay.
 */
export function withCondition(text: string, read: ReadQuery, field: string, condition: string | undefined): string {
  const [first, ...others] = partsOf(read, field)
  let changed = text
  for (const part of others.toReversed()) changed = withoutPart(changed, part)
  if (!first) return condition === undefined ? changed : joined(changed, condition)
  return condition === undefined ? withoutPart(changed, first) : changed.slice(0, first.from) + condition + changed.slice(first.to)
}

/** A condition with one or several values, any of which may be so. */
export function conditionText(field: string, values: readonly string[]): string | undefined {
  return values.length === 0 ? undefined : `${field}=${values.map(quoted).join(',')}`
}

/** A condition for a range, open where an end is left out; undefined where both are. */
export function rangeText(field: string, low: number | undefined, high: number | undefined): string | undefined {
  if (low === undefined && high === undefined) return undefined
  if (low === undefined) return `${field}<=${high}`
  return high === undefined ? `${field}>=${low}` : `${field}=${low}..${high}`
}

function joined(before: string, after: string): string {
  return [before.trim(), after.trim()].filter(Boolean).join(' ')
}
