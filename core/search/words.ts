import { fold } from './tokens'

/** Most words of a query that are looked at; the rest would only narrow nothing further. */
export const MOST_WORDS = 24

/**
 * The words in a piece of a search text, folded; signs only part them.
 *
 * @param isInOrder keeps words that come twice, since a phrase is words in a row
 */
export function queryWords(text: string, isInOrder = false): string[] {
  const words = fold(text.normalize('NFC')).split(/[^\p{L}\p{N}]+/u).filter(Boolean)
  return (isInOrder ? words : [...new Set(words)]).slice(0, MOST_WORDS)
}
