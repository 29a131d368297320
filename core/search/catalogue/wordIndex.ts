import { Bits } from './bits'

const SMALLEST = 4

/** Numbers in the order in which they were added; a single one takes no room of its own. */
type Postings = number | { list: Int32Array, length: number }

/** An index that was written down. */
export interface SavedWords {
  readonly words: readonly string[]
  /** Where in `sounds` those of each word end. */
  readonly ends: Int32Array
  readonly sounds: Int32Array
}

/**
 * Which sounds bear which words. Words are found by how they begin, through a list of all words in order; those that
 * are spelled nearly alike through their trigrams.
 */
export class WordIndex {
  private readonly numbers = new Map<string, number>()
  private readonly words: string[] = []
  private readonly postings: (Postings | undefined)[] = []
  private readonly trigrams: (ReadonlySet<string> | undefined)[] = []
  private sorted: string[] = []
  private fresh: string[] = []
  /** Words without digits: only they can be misspelled. */
  private readonly spelled: number[] = []
  /** All words in their order, a line each, in which parts of words are looked for. */
  private text = ''
  /** Where each word begins in it. */
  private starts = new Int32Array()

  /** Adds words of a sound; `|` stands between texts and is none. */
  add(sound: number, words: Iterable<string>): void {
    for (const word of words) {
      if (word === '' || word === '|') continue
      const number = this.numberOf(word)
      const held = this.postings[number]
      if (held === undefined) this.postings[number] = sound
      else if (typeof held === 'number') {
        if (held !== sound) this.postings[number] = { list: Int32Array.of(held, sound, 0, 0), length: 2 }
      }
      // A word that comes twice in one text comes twice in a row here.
      else if (held.list[held.length - 1] !== sound) {
        if (held.length === held.list.length) {
          const grown = new Int32Array(Math.max(SMALLEST, Math.ceil(held.length * 1.5)))
          grown.set(held.list)
          held.list = grown
        }
        held.list[held.length++] = sound
      }
    }
  }

  /** Takes words away from sounds; all at once, since each word's sounds are gone through. */
  remove(gone: ReadonlyMap<string, ReadonlySet<number>>): void {
    for (const [word, sounds] of gone) {
      const number = this.numbers.get(word)
      const held = number === undefined ? undefined : this.postings[number]
      if (number === undefined || held === undefined) continue
      if (typeof held === 'number') {
        if (sounds.has(held)) this.postings[number] = undefined
        continue
      }
      let kept = 0
      for (let i = 0; i < held.length; i++) {
        const sound = held.list[i]!
        if (!sounds.has(sound)) held.list[kept++] = sound
      }
      held.length = kept
    }
  }

  /** The sounds with a word that begins so. */
  beginning(prefix: string, size: number): Bits {
    const found = new Bits(size)
    this.eachBeginning(prefix, number => this.collect(number, found))
    return found
  }

  /** The sounds with exactly this word. */
  whole(word: string, size: number): Bits {
    const found = new Bits(size)
    const number = this.numbers.get(word)
    if (number !== undefined) this.collect(number, found)
    return found
  }

  /** The sounds with a word that holds these letters, or is spelled nearly so. */
  near(word: string, size: number): Bits {
    const found = new Bits(size)
    if (word.length >= SHORTEST_PART) this.eachHolding(word, number => this.collect(number, found))
    if (word.length < SHORTEST_MISSPELLED || HAS_DIGIT.test(word)) return found
    const wanted = trigramsOf(word)
    for (const number of this.spelled) {
      const other = this.words[number]!
      if (this.postings[number] !== undefined && isMisspelled(word, wanted, other, () => this.trigrams[number] ??= trigramsOf(other))) this.collect(number, found)
    }
    return found
  }

  /** All words in their order, and the sounds of each, one after the other. */
  save(): SavedWords {
    this.sort()
    const lists = this.sorted.map(word => this.soundsOf(this.numbers.get(word)!))
    const ends = new Int32Array(lists.length)
    const sounds = new Int32Array(lists.reduce((sum, list) => sum + list.length, 0))
    let place = 0
    lists.forEach((list, number) => {
      sounds.set(list, place)
      ends[number] = place += list.length
    })
    return { words: this.sorted, ends, sounds }
  }

  /** Takes words up that were written down, in place of all that are here. */
  restore({ words, ends, sounds }: SavedWords): void {
    this.sorted = [...words]
    this.layOut()
    words.forEach((word, number) => {
      if (!HAS_DIGIT.test(word)) this.spelled.push(number)
      const list = sounds.subarray(ends[number - 1] ?? 0, ends[number])
      this.numbers.set(word, number)
      this.words.push(word)
      this.postings.push(list.length === 0 ? undefined : list.length === 1 ? list[0]! : { list, length: list.length })
    })
  }

  private soundsOf(number: number): Int32Array {
    const held = this.postings[number]
    return held === undefined ? new Int32Array() : typeof held === 'number' ? Int32Array.of(held) : held.list.subarray(0, held.length)
  }

  private collect(number: number, into: Bits): void {
    const held = this.postings[number]
    if (typeof held === 'number') into.add(held)
    else if (held !== undefined) for (let i = 0; i < held.length; i++) into.add(held.list[i]!)
  }

  private eachBeginning(prefix: string, visit: (number: number) => void): void {
    this.sort()
    let low = 0
    let high = this.sorted.length
    while (low < high) {
      const middle = low + high >>> 1
      if (this.sorted[middle]! < prefix) low = middle + 1
      else high = middle
    }
    for (let i = low; i < this.sorted.length && this.sorted[i]!.startsWith(prefix); i++) visit(this.numbers.get(this.sorted[i]!)!)
  }

  /** The words that hold these letters and others. */
  private eachHolding(part: string, visit: (number: number) => void): void {
    this.sort()
    for (let at = this.text.indexOf(part); at >= 0; at = this.text.indexOf(part, at)) {
      const place = lastAtMost(this.starts, at)
      const word = this.sorted[place]!
      if (word.length > part.length) visit(this.numbers.get(word)!)
      // On with the next word.
      at = this.starts[place]! + word.length
    }
  }

  private layOut(): void {
    this.text = this.sorted.join('\n')
    this.starts = new Int32Array(this.sorted.length)
    let start = 0
    this.sorted.forEach((word, place) => {
      this.starts[place] = start
      start += word.length + 1
    })
  }

  /** Words that are new since the last look are merged in. */
  private sort(): void {
    if (this.fresh.length === 0) return
    const added = this.fresh.sort()
    const merged: string[] = []
    let i = 0
    for (const word of this.sorted) {
      while (i < added.length && added[i]! < word) merged.push(added[i++]!)
      merged.push(word)
    }
    while (i < added.length) merged.push(added[i++]!)
    this.sorted = merged
    this.fresh = []
    this.layOut()
  }

  private numberOf(word: string): number {
    const known = this.numbers.get(word)
    if (known !== undefined) return known
    const number = this.words.length
    this.numbers.set(word, number)
    this.words.push(word)
    this.fresh.push(word)
    if (!HAS_DIGIT.test(word)) this.spelled.push(number)
    return number
  }
}

const HAS_DIGIT = /\d/
const SHORTEST_PART = 3
const SHORTEST_MISSPELLED = 4
/** Parts of the trigrams of both words that they must share. */
const LEAST_ALIKE = 0.45

function isMisspelled(word: string, wanted: ReadonlySet<string>, other: string, trigramsOfOther: () => ReadonlySet<string>): boolean {
  if (other.length < SHORTEST_MISSPELLED || Math.abs(word.length - other.length) > 3) return false
  return isOneSlip(word, other) || alike(wanted, trigramsOfOther()) >= LEAST_ALIKE
}

/** The place of the last number of an ascending list that is not above a value. */
function lastAtMost(numbers: Int32Array, value: number): number {
  let low = 0
  let high = numbers.length
  while (low < high) {
    const middle = low + high >>> 1
    if (numbers[middle]! <= value) low = middle + 1
    else high = middle
  }
  return low - 1
}

/** Runs of three letters, the word's two beginnings and its end among them. Source: PostgreSQL 15 documentation, F.35 (pg_trgm). */
function trigramsOf(word: string): ReadonlySet<string> {
  const padded = `  ${word} `
  return new Set(Array.from({ length: padded.length - 2 }, (_, i) => padded.slice(i, i + 3)))
}

function alike(a: ReadonlySet<string>, b: ReadonlySet<string>): number {
  let shared = 0
  for (const trigram of a) if (b.has(trigram)) shared++
  return shared / (a.size + b.size - shared)
}

/** True where one letter is wrong, missing or too many, or two neighbours have changed places (Damerau 1964). */
function isOneSlip(a: string, b: string): boolean {
  const [short, long] = a.length <= b.length ? [a, b] : [b, a]
  if (long.length - short.length > 1) return false
  let i = 0
  while (i < short.length && short[i] === long[i]) i++
  if (short.length < long.length) return short.slice(i) === long.slice(i + 1)
  return short.slice(i + 1) === long.slice(i + 1) || (short[i] === long[i + 1] && short[i + 1] === long[i] && short.slice(i + 2) === long.slice(i + 2))
}
