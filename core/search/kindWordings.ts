import { groupBy } from '../groupBy'
import { FINER_WORDS, KIND_WORDS, KIND_WORDS_ELSEWHERE, type KindWords } from './kindWords'

/** A run of words that stands for a kind. */
export interface Wording {
  readonly path: string
  readonly tokens: readonly string[]
  readonly text: string
  /** The longer the wording the stronger; below `STRONG` it is one that is often something else. */
  readonly strength: number
  /** Place in the list: of equally strong ones the first counts. */
  readonly order: number
  readonly isInFileNameOnly: boolean
}

/** Least strength of a wording that is hardly ever something else. */
export const STRONG = 10

const wordingsOf = ({ path, words, weak, inFileNameOnly = false }: KindWords): Omit<Wording, 'order'>[] => words.flatMap((text) => {
  const tokens = text.split(' ')
  const strength = (weak ? 0 : STRONG) + tokens.length * 2 + (text.length > 2 ? 1 : 0)
  const glued = tokens.join('')
  const wording = { path, tokens, text, strength, isInFileNameOnly: inFileNameOnly }
  return tokens.length > 1 && glued.length > 4 ? [wording, { ...wording, tokens: [glued] }] : [wording]
})

const withOrder = (wording: Omit<Wording, 'order'>, order: number): Wording => ({ ...wording, order })
const WORDINGS: readonly Wording[] = [...KIND_WORDS, ...KIND_WORDS_ELSEWHERE].flatMap(wordingsOf).map(withOrder)

/** Wordings by their first word, so that a name is not held against each of hundreds. */
const BY_FIRST_WORD = groupBy(WORDINGS, wording => wording.tokens[0]!)

const SHORTEST_WITHIN = 4

/** Too often a part of words that have nothing to do with it: `bridesmaid`, `protocol`. */
const WITHIN_ANYTHING = new Set(['ride', 'rides', 'floor', 'egg', 'jingle', 'shake', 'china', 'stick', 'tamb', 'cowb', 'clav', 'block', 'blocks', 'chat', 'rims', 'toms', 'hats', 'roto', 'eggs', 'sticks', 'hihat c', 'hihat o', 'hi hat c', 'hi hat o', 'choir', 'laugh', 'breath', 'scream', 'bdrm', 'sdrm'])

/** Words that are known within a longer one: `deepkick`, `snareroll`. Short ones would be found in anything. */
const WITHIN = KIND_WORDS.flatMap(wordingsOf).map(withOrder)
  .filter(wording => wording.tokens.length === 1 && wording.tokens[0]!.length >= SHORTEST_WITHIN && wording.strength > STRONG && wording.path !== 'loop' && !WITHIN_ANYTHING.has(wording.text))

const WITHIN_BY_WORD = groupBy(WITHIN, ({ tokens: [word] }) => word!)

/** Words by what is left of them without vowels: `SHAKR`, `WDBLCK`, as names of eight letters have them. */
const BY_CONSONANTS = groupBy(WITHIN.filter(({ path, tokens: [word] }) => path !== 'voice' && consonants(word!).length >= 3), ({ tokens: [word] }) => consonants(word!))

const KNOWN_WORDS = new Set([...WORDINGS.flatMap(wording => wording.tokens), ...Object.values(FINER_WORDS).flatMap(words => [...words.keys()])])

/** True for a word that stands for a kind, alone or with others. */
export function isOfTheTrade(word: string): boolean {
  return KNOWN_WORDS.has(word)
}

/** All wordings in the words of a name; where there are none, one that is written short, or within a word, which say less. */
export function wordsIn(tokens: readonly string[]): Wording[] {
  const found = tokens.flatMap((token, i) => (BY_FIRST_WORD.get(token) ?? []).filter(wording => wording.tokens.every((word, j) => tokens[i + j] === word)))
  if (found.length > 0) return found
  const short = tokens.flatMap(token => (BY_CONSONANTS.get(consonants(token)) ?? []).filter(({ tokens: [word] }) => token.length < word!.length && isWithin(token, word!)))
  const part = [...short, ...tokens.flatMap(beginningOrEnd)].sort(byOrder)[0]
  return part ? [{ ...part, strength: 0 }] : []
}

function beginningOrEnd(token: string): Wording[] {
  const found: Wording[] = []
  for (let length = SHORTEST_WITHIN; length <= token.length; length++) {
    found.push(...WITHIN_BY_WORD.get(token.slice(0, length)) ?? [], ...WITHIN_BY_WORD.get(token.slice(-length)) ?? [])
  }
  return found
}

function byOrder(a: Wording, b: Wording): number {
  return a.order - b.order
}

/** The strongest wording of a name, of equal ones the first of the list; a loop before all, and a beat where its tempo is stated. */
export function strongest(words: readonly Wording[], tokens: readonly string[]): Wording | undefined {
  const loop = words.find(({ path, strength }) => path === 'loop' && (strength >= STRONG || tokens.includes('bpm')))
  if (loop) return { ...loop, strength: Math.max(loop.strength, STRONG) }
  return words.toSorted((a, b) => b.strength - a.strength || byOrder(a, b))[0]
}

function consonants(word: string): string {
  return word.replace(/[aeiou]/g, '')
}

/** True when the letters stand in the word in their order. */
function isWithin(letters: string, word: string): boolean {
  let at = 0
  for (const letter of word) if (letter === letters[at]) at++
  return at === letters.length
}
