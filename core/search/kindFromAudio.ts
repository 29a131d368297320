import type { Figures } from '../audio/analysis/figures'
import { CLASSES } from '../audio/kinds/classes'
import type { KindGuess } from './kindFromName'
import { kindLabel } from './kinds'
import { counted } from '../wording'

/** Hits at which a recording is surely a loop and not a roll. */
const MANY_HITS = 16
/** Second guesses below this are not worth a word. */
const WORTH_NAMING = 0.1

/**
 * What the audio alone says of a sound's kind: a loop by its hits and length, else the likeliest class; null where that is
 * no drum (a tone, a voice, an effect).
 *
 * @param probabilities one a class, see `classProbabilities`
 */
export function kindFromAudio(figures: Pick<Figures, 'flags' | 'hits'>, probabilities: Float64Array): KindGuess | null {
  if (figures.flags.includes('loop')) {
    return { path: 'loop', confidence: Math.min(0.95, 0.7 + 0.25 * figures.hits.length / MANY_HITS), evidence: `${counted(figures.hits.length, 'hit')}${figures.hits.length === 1 ? '' : ', one after another'}` }
  }
  const ranked = [...probabilities].map((probability, i) => ({ path: CLASSES[i], probability }))
    .sort((a, b) => b.probability - a.probability)
  const [first, second] = ranked
  if (!first?.path || first.path === 'other') return null
  const doubt = second && second.probability >= WORTH_NAMING && second.path ? `, ${Math.round(second.probability * 100)} % for ${second.path === 'other' ? 'no drum' : kindLabel(second.path).toLowerCase()}` : ''
  return { path: first.path, confidence: first.probability, evidence: `how it sounds${doubt}` }
}
