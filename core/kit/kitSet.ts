import { kindLabel, topKind } from '../search/kinds'
import { groupBy } from '../groupBy'
import { emptyKit, FIRST_NOTE, MOST_PADS, type Kit } from './document'
import { familyParts, type KnownSound, type Part } from './parts'
import { place } from './placing'

const OTHER = 'Other sounds'
const MOST_NAME = 120

/**
 * Splits a pack into one kit a kind, each with an output of its own by the kind's name. Strokes and takes of one instrument
 * share a pad. A kind of more than 128 pads goes on in further kits.
 *
 * @param pack the name that the kits' names begin with
 */
export function kitSet(pack: string, sounds: readonly KnownSound[]): Kit[] {
  const byKind = [...groupBy(sounds, ({ kind }) => kind === null ? OTHER : topKind(kind))]
  return byKind.sort(([a], [b]) => Number(a === OTHER) - Number(b === OTHER)).flatMap(([kind, ofKind]) => {
    const label = kind === OTHER ? OTHER : kindLabel(kind)
    const parts = familyParts(ofKind)
    return chunks(parts).map((part, i, all) => oneKit(pack, all.length > 1 ? `${label} ${i + 1}` : label, label, part))
  })
}

function oneKit(pack: string, title: string, output: string, parts: readonly Part[]): Kit {
  const name = `${pack.slice(0, MOST_NAME - title.length - 3)} – ${title}`
  const kit: Kit = { ...emptyKit(name), outputs: [{ id: 'main', name: output }] }
  // From the lowest note where there are more sounds than notes above the usual first one.
  const startNote = parts.length > MOST_PADS - FIRST_NOTE ? MOST_PADS - parts.length : FIRST_NOTE
  return place(kit, parts.flatMap(part => part.sounds), { type: 'in order', startNote, gap: 0, families: true }).kit
}

function chunks(parts: readonly Part[]): Part[][] {
  return Array.from({ length: Math.ceil(parts.length / MOST_PADS) }, (_, i) => parts.slice(i * MOST_PADS, (i + 1) * MOST_PADS))
}
