import { topKind } from './kinds'
import { isOfTheTrade, STRONG, strongest, wordsIn, type Wording } from './kindWordings'
import { FINER_WORDS, KIND_LETTERS } from './kindWords'
import { fold, nameTokens } from './tokens'

/** What a name says of a sound's kind. */
export interface KindGuess {
  readonly path: string
  /** 0 to 1. A word in the file's own name weighs more than one in a folder's. */
  readonly confidence: number
  /** The words it rests on, as a person would be shown them. */
  readonly evidence: string
}

/** Trust in a word of the file's own name, and in one of the folder that it lies in; each folder above counts `LESS_A_FOLDER` less. */
const FILE_NAME = 0.9
const FOLDER = 0.75
const LESS_A_FOLDER = 0.1
const LEAST_FOLDER = 0.4
/** What is taken off for a word with several meanings; for two small letters beside a word that is none of the trade (`Oh yeah`); where several kinds are named. */
const WEAK = 0.25
const TWO_LETTERS = 0.12
const SEVERAL_IN_FILE_NAME = 0.12
const SEVERAL_IN_FOLDER = 0.3
const LETTERS_CONFIDENCE = 0.45

/** What stands between things that are listed: "Kicks & Loops" are two, "Kick Loops" are loops. */
const LISTS = /[&+,]|(?<!\p{L})(?:and|und|et)(?!\p{L})/iu

/** The file's name or one of its folders, with the words of the trade in it. */
interface Place {
  readonly text: string
  /** 0 for the file's name, 1 for the folder that it lies in. */
  readonly height: number
  readonly tokens: readonly string[]
  readonly words: readonly Wording[]
}

type TellingPlace = Place & { readonly best: Wording, readonly confidence: number }

/**
 * Infers a kind from a file's name and the folders it lies in. The file's own name goes before folders, unless all it has is a
 * word with several meanings; the nearest folder goes before those above it. What one says more finely than another is added
 * (`Hats/Closed/03`, `Cymbals/Crash 2`), and `loop` anywhere outweighs instruments: a "kick loop" is a loop.
 *
 * @param path relative, with `/` between its parts
 * @returns undefined when no word of the trade was found
 */
export function kindFromName(path: string): KindGuess | undefined {
  const parts = path.split('/').filter(Boolean)
  parts.push((parts.pop() ?? '').replace(/\.[^.]*$/, ''))
  const places = parts.reverse().map(placeOf)
  const telling = places.flatMap(tellingPlaces)
  const loop = telling.find(place => place.best.path === 'loop' && place.best.strength >= STRONG)
  const best = loop ?? telling.toSorted((a, b) => b.confidence - a.confidence)[0]
  if (!best) return kindFromLetters(places[0]!)
  const finer = finerThan(best, places, telling)
  const evidence = `"${best.best.text}" ${within(best)}`
  if (!finer) return { path: best.best.path, confidence: best.confidence, evidence }
  return { path: finer.path, confidence: best.confidence, evidence: finer.place.height === best.height ? evidence : `${evidence}, "${finer.word}" ${within(finer.place)}` }
}

/** The strongest word of the trade in any text. */
export function kindInText(text: string): { path: string, word: string, isWeak: boolean } | undefined {
  const place = placeOf(text, 0)
  const best = strongest(place.words, place.tokens)
  return best && { path: finerThan({ ...place, best, confidence: 1 }, [place], [])?.path ?? best.path, word: best.text, isWeak: best.strength < STRONG }
}

type PlaceWords = Pick<Place, 'tokens' | 'words'>

/** What folders say: thousands of files lie in each. */
const FOLDERS_SAY = new Map<string, PlaceWords>()
const MOST_FOLDERS = 1000

function placeOf(text: string, height: number): Place {
  if (height === 0) return { text, height, ...placeWordsIn(text) }
  const known = FOLDERS_SAY.get(text)
  if (known) return { text, height, ...known }
  const found = placeWordsIn(text)
  if (FOLDERS_SAY.size >= MOST_FOLDERS) FOLDERS_SAY.clear()
  FOLDERS_SAY.set(text, found)
  return { text, height, ...found }
}

function placeWordsIn(text: string): PlaceWords {
  const tokens = nameTokens(text)
  const words = wordsIn(tokens)
  // Written together, capitals mislead: "HHopen" is cut behind its first letter.
  if (words.length > 0 || !/\p{Ll}\p{Lu}|\p{Lu}{2}\p{Ll}/u.test(text)) return { tokens, words }
  const uncut = nameTokens(fold(text))
  return { tokens: uncut, words: wordsIn(uncut) }
}

function tellingPlaces(place: Place): TellingPlace[] {
  const best = strongest(place.words, place.tokens)
  if (!best || (best.isInFileNameOnly && place.height > 0)) return []
  const trust = place.height === 0 ? FILE_NAME : Math.max(LEAST_FOLDER, FOLDER - (place.height - 1) * LESS_A_FOLDER)
  return [{ ...place, best, confidence: trust - doubt(place, best) }]
}

function doubt({ text, tokens, words, height }: Place, best: Wording): number {
  if (best.strength < STRONG) return WEAK
  if (namesSeveral(words) && (best.path !== 'loop' || LISTS.test(text))) return height === 0 ? SEVERAL_IN_FILE_NAME : SEVERAL_IN_FOLDER
  // In capitals they are meant as letters: "HBR_BD_01".
  const isLikeWord = best.text.length === 2 && !text.includes(best.text.toUpperCase())
  return isLikeWord && tokens.some(token => /^\p{L}{3,}$/u.test(token) && !isOfTheTrade(token)) ? TWO_LETTERS : 0
}

/** True where strong words for several kinds stand side by side: `Kicks & Snares`. A rim is one of a snare, and a word within a longer wording is no other. */
function namesSeveral(words: readonly Wording[]): boolean {
  const strong = words.filter(wording => wording.strength >= STRONG)
  const alone = strong.filter(({ tokens }) => !strong.some(other => other.tokens.length > tokens.length && tokens.every(token => other.tokens.includes(token))))
  return new Set(alone.map(({ path }) => topKind(path)).map(top => top === 'rim' ? 'snare' : top)).size > 1
}

function within({ height, text }: Place): string {
  return `in the ${height === 0 ? 'file name' : `folder name "${text}"`}`
}

interface Finer {
  readonly path: string
  readonly word: string
  readonly place: Place
}

/** What another word says more finely: a subkind named by itself, a word that stands for one beside its kind, a snare's rim. */
function finerThan(best: TellingPlace, places: readonly Place[], telling: readonly TellingPlace[]): Finer | undefined {
  const { path } = best.best
  for (const place of telling) {
    const named = place.words.find(wording => wording.path.startsWith(`${path}.`))
    if (named) return { path: named.path, word: named.text, place }
  }
  return besideKind(best, places) ?? (path === 'snare' ? rimOfSnare(best, places) : undefined)
}

function besideKind(best: TellingPlace, places: readonly Place[]): Finer | undefined {
  const words = FINER_WORDS[best.best.path]
  if (!words) return undefined
  for (const place of places) {
    // Above the folder that names the kind, only one that says nothing else is about it.
    if (place.height > best.height && !place.tokens.every(token => words.has(token) || /^\d+$/.test(token))) continue
    const word = place.tokens.find(token => words.has(token))
    if (word) return { path: words.get(word)!, word, place }
  }
  return undefined
}

function rimOfSnare(best: TellingPlace, places: readonly Place[]): Finer | undefined {
  for (const place of places.slice(0, best.height + 2)) {
    const rim = place.words.find(wording => wording.path === 'rim')
    // A folder of rims and snares says of neither which it is.
    if (rim && (place.height === best.height || place.words.every(wording => wording.path !== 'snare'))) return { path: 'rim', word: rim.text, place }
  }
  return undefined
}

function kindFromLetters({ tokens }: Place): KindGuess | undefined {
  const words = tokens.filter(token => !/^\d+$/.test(token))
  const path = words.length === 1 ? KIND_LETTERS.get(words[0]!) : undefined
  return path ? { path, confidence: LETTERS_CONFIDENCE, evidence: `"${words[0]}" in the file name, which may be something else` } : undefined
}
