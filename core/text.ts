import { z } from 'zod'

/** Halves of surrogate pairs, which stand for no character. */
const HALVES = /[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/g

/**
 * Text as every database, file and line keeps it: spaces for NUL, and no half of a surrogate pair, also where it is cut.
 *
 * @param most most UTF-16 units that are kept
 */
export function keepable(text: string, most = Infinity): string {
  return text.slice(0, most).replaceAll('\0', ' ').replace(HALVES, '')
}

/** The same value, its texts and the names of its parts as `keepable` keeps them. */
export function keepableAll(value: unknown): unknown {
  if (typeof value === 'string') return keepable(value)
  if (Array.isArray(value)) return value.map(keepableAll)
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(Object.entries(value).map(([name, part]) => [keepable(name), keepableAll(part)]))
}

/** Text of a document, of at most so many UTF-16 units: kept as `keepable` keeps it. */
export function text(most: number): z.ZodString {
  return z.string().overwrite(value => keepable(value)).max(most)
}
