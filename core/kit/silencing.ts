import type { Kit } from './document'
import { padLabel } from './padLabel'
import { listed } from '../wording'

/** Why filled pads of a kit are not heard, by their indexes: they are muted, or not soloed while others are. */
export interface Silencing {
  readonly muted: readonly number[]
  readonly soloed: readonly number[]
  /** Silent by those solos. */
  readonly silencedBySolo: readonly number[]
}

/** What mutes and solos leave unheard of a kit; undefined where that is nothing. */
export function silencingOf(kit: Kit): Silencing | undefined {
  const filled = kit.pads.flatMap((pad, index) => pad.layers.length > 0 ? [index] : [])
  const soloed = kit.pads.flatMap((pad, index) => pad.soloed ? [index] : [])
  const muted = filled.filter(index => kit.pads[index]!.muted)
  const silencedBySolo = soloed.length > 0 ? filled.filter(index => !kit.pads[index]!.soloed && !kit.pads[index]!.muted) : []
  return muted.length + silencedBySolo.length > 0 ? { muted, soloed, silencedBySolo } : undefined
}

const MOST_NAMED = 6

/** The same in sentences, one for the mutes and one for the solos. */
export function silencingWords(kit: Kit, { muted, soloed, silencedBySolo }: Silencing): string[] {
  const named = (indexes: readonly number[]) => listed(indexes.map(index => nameOf(kit, index)), MOST_NAMED)
  const are = (count: number) => count === 1 ? 'is' : 'are'
  return [
    ...muted.length > 0 ? [`${named(muted)} ${are(muted.length)} muted.`] : [],
    ...silencedBySolo.length > 0 ? [`${named(silencedBySolo)} ${are(silencedBySolo.length)} silent because ${named(soloed)} ${are(soloed.length)} soloed.`] : [],
  ]
}

function nameOf(kit: Kit, index: number): string {
  const name = kit.pads[index]!.name
  return name === '' ? padLabel(index) : `${padLabel(index)} ${name}`
}

/** The kit with every pad heard. */
export function unsilenced(kit: Kit): Kit {
  return { ...kit, pads: kit.pads.map(pad => pad.muted || pad.soloed ? { ...pad, muted: false, soloed: false } : pad) }
}
