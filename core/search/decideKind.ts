import type { Flag } from '../audio/analysis/figures'
import type { KindGuess } from './kindFromName'

/** What each witness says of a sound's kind, null where it says nothing. */
export interface KindWitnesses {
  /** The file's own tags. */
  readonly file: KindGuess | null
  /** Its name and the folders that it lies in. */
  readonly name: KindGuess | null
  readonly audio: KindGuess | null
}

/** Below this no kind is given: it would be a guess. Of what is heard between here and 60 %, a half is right (docs/kinds.md). */
export const LEAST_CONFIDENCE = 0.3

/** A word this sure is one of the file's own name; a folder's, or a word with several meanings, is less. */
const SURE_WORD = 0.8
/** What hears this sure is believed over a word that is not: of two sets that were not learned from, 45 of 47 heard so were right. */
const SURE_AUDIO = 0.95
/** A word less sure than this is letters that may be anything, or a folder far above. */
const FAINT_WORD = 0.5
/** What hears this sure goes before a faint word, and says which subkind it is of the kind that a word names. */
const FAIRLY_SURE_AUDIO = 0.7

/**
 * Weighs the witnesses. Words that people wrote go before what was heard, unless they are of the weaker sort (a
 * folder's name, a word with several meanings) and the audio clearly says otherwise; witnesses that agree make each
 * other surer, and the finer one is taken (`hat` by name, `hat.open` by ear). Of several hits only the first is heard, so that
 * nothing heard speaks against a loop of several.
 *
 * @param flags what was measured
 * @param loop what the tempo says, see `loopByTempo`: it goes before all that names an instrument
 * @returns undefined where no witness is sure enough
 */
export function decideKind({ file, name, audio }: KindWitnesses, flags: readonly Flag[], loop?: KindGuess): KindGuess | undefined {
  const found = stronger(name, file)
  const word = loop && found?.path !== loop.path ? loop : found
  if (!word) return audio && audio.confidence >= LEAST_CONFIDENCE ? audio : undefined
  if (!audio) return word
  if (related(word.path, audio.path)) {
    const finer = audio.path.startsWith(`${word.path}.`) && audio.confidence >= FAIRLY_SURE_AUDIO ? audio.path : word.path
    return { path: finer, confidence: 1 - (1 - word.confidence) * (1 - audio.confidence), evidence: `${word.evidence}, and it sounds like it` }
  }
  if (word.path === 'loop' && flags.includes('several-hits')) return word
  const enough = word.confidence < FAINT_WORD ? FAIRLY_SURE_AUDIO : SURE_AUDIO
  if (word.confidence < SURE_WORD && audio.confidence >= enough) {
    return { ...audio, confidence: audio.confidence * (1 - word.confidence / 2), evidence: `${audio.evidence}, against ${word.evidence}` }
  }
  // Doubt by ear takes a little of the trust in a word.
  return { ...word, confidence: word.confidence * (1 - 0.2 * audio.confidence) }
}

function stronger(name: KindGuess | null, file: KindGuess | null): KindGuess | null {
  if (!name || !file) return name ?? file
  if (related(name.path, file.path)) {
    const finer = file.path.startsWith(`${name.path}.`) ? file : name
    return { ...finer, confidence: 1 - (1 - name.confidence) * (1 - file.confidence) }
  }
  return file.confidence > name.confidence ? file : name
}

/** True when one path is the other or lies below it. */
function related(a: string, b: string): boolean {
  return a === b || a.startsWith(`${b}.`) || b.startsWith(`${a}.`) || isPedal(a, b)
}

/** By ear a pedal hat is a closed one. */
function isPedal(a: string, b: string): boolean {
  return a === 'hat.pedal' && b === 'hat.closed'
}
