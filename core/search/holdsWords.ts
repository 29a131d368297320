import { fold } from './tokens'

/** True where a text holds each of the words, in any order and anywhere: for short lists, where a part of a word is enough. */
export function holdsWords(text: string, words: string): boolean {
  const folded = fold(text)
  return fold(words).split(/\s+/).every(word => folded.includes(word))
}
