import { kindInText } from '../kindFromName'
import { Bits } from './bits'
import type { Catalogue } from './catalogue'
import { kindBits } from './kindBits'

/** Words in a row that mean one kind are looked for together up to this many: "closed hi hat". */
const LONGEST = 4

/**
 * Which kinds the words of a search mean: `bd` a kick, `open hat` an open hat. A word that is part of several wordings means
 * the longest of them.
 */
export class MeaningOfWords {
  private readonly runs: { readonly from: number, readonly to: number, readonly path: string }[] = []

  constructor(private readonly catalogue: Catalogue, words: readonly string[]) {
    const taken = new Set<number>()
    for (let length = Math.min(LONGEST, words.length); length > 0; length--) {
      for (let from = 0; from + length <= words.length; from++) {
        const run = words.slice(from, from + length)
        if (run.some((_, i) => taken.has(from + i))) continue
        const kind = kindInText(run.join(' '))
        // The wording must be all of the run: a word or number beside it (`R1 tomhigh`) is looked for as it is.
        if (!kind || kind.isWeak || kind.word.replaceAll(' ', '') !== run.join('')) continue
        run.forEach((_, i) => taken.add(from + i))
        this.runs.push({ from, to: from + length, path: kind.path })
      }
    }
  }

  /** The sounds of the kind that the word at a place means, alone or with its neighbours; none where it means no kind. */
  of(place: number): Bits {
    const run = this.runs.find(({ from, to }) => from <= place && place < to)
    return run ? kindBits(this.catalogue, run.path) : new Bits(this.catalogue.size)
  }
}
