import { fold } from './tokens'

/** Most words of a query that are looked at; the rest would only narrow nothing further. */
export const MOST_WORDS = 24

/**
 * The words of a plain query: any order, each found where a name's word begins with it. Quotes and signs are
 * only separators. (Conditions come with the search language.)
 */
export function queryWords(query: string): string[] {
  const words = fold(query.normalize('NFC')).split(/[^\p{L}\p{N}]+/u).filter(Boolean)
  return [...new Set(words)].slice(0, MOST_WORDS)
}
