import { topKind } from '../search/kinds'
import { MOST_PADS, type Kit } from './document'
import { addBank, placeSounds, type Placement, type SoundToPlace } from './edits'

/** The keys that a kind is looked for on, the likeliest first. Source: General MIDI System Level 1, percussion key map. */
const KEYS: Readonly<Record<string, readonly number[]>> = {
  'kick': [36, 35],
  'snare': [38, 40],
  'rim': [37],
  'clap': [39],
  'snap': [39],
  'hat': [42, 44, 46],
  'hat.closed': [42],
  'hat.pedal': [44],
  'hat.open': [46],
  'tom': [41, 43, 45, 47, 48, 50],
  'tom.low': [41, 43, 45],
  'tom.mid': [47, 48],
  'tom.high': [50, 48],
  'cymbal': [49, 51, 57, 59],
  'cymbal.crash': [49, 57],
  'cymbal.ride': [51, 59],
  'cymbal.splash': [55],
  'cymbal.china': [52],
  'hand.bongo': [60, 61],
  'hand.conga': [63, 62, 64],
  'hand.timbale': [65, 66],
  'shaker': [70, 69],
  'shaker.tambourine': [54],
  'shaker.maracas': [70],
  'shaker.cabasa': [69],
  'metal.cowbell': [56],
  'metal.triangle': [81, 80],
  'metal.agogo': [67, 68],
  'wood.block': [76, 77],
  'wood.claves': [75],
  'wood.scraper': [73, 74],
}

/**
 * Puts sounds on the free pads that fit their kinds: those meant for that kind, then those on the kind's own keys. Sounds for
 * which there is none go onto any after that, so that none of them takes the pad of another. No sound is replaced; banks are
 * added as needed.
 */
export function placeByKind(kit: Kit, sounds: readonly SoundToPlace[]): Placement {
  let grown = kit
  const padOf = new Map<SoundToPlace, number>()
  const put = (sound: SoundToPlace, padIndex: number) => {
    grown = placeSounds(grown, padIndex, [sound]).kit
    padOf.set(sound, padIndex)
  }
  for (const sound of sounds) {
    const fitting = fittingPad(grown, sound.kind)
    if (fitting !== undefined) put(sound, fitting)
  }
  for (const sound of sounds) {
    if (padOf.has(sound)) continue
    // A bank that was added may have its key.
    const free = fittingPad(grown, sound.kind) ?? firstFree(grown)
    if (free >= MOST_PADS) continue
    if (free >= grown.pads.length) grown = addBank(grown)
    put(sound, free)
  }
  return { kit: grown, padIndexes: sounds.flatMap(sound => padOf.get(sound) ?? []), leftOver: sounds.filter(sound => !padOf.has(sound)) }
}

function fittingPad(kit: Kit, kind: string | null): number | undefined {
  if (kind === null) return undefined
  const isFree = (index: number) => kit.pads[index]!.layers.length === 0 && !kit.pads[index]!.held
  const pads = kit.pads.map((_, index) => index).filter(isFree)
  const meant = pads.find(index => kit.pads[index]!.role === kind) ?? pads.find(index => kit.pads[index]!.role === topKind(kind))
  if (meant !== undefined) return meant
  const keys = KEYS[kind] ?? KEYS[topKind(kind)] ?? []
  return keys.map(key => pads.find(index => kit.pads[index]!.note === key && kit.pads[index]!.role === null)).find(index => index !== undefined)
}

/**
 * A free pad that is no kind's own key comes before one that another sound may want; a pad that is meant for another kind
 * is taken last, when no bank can be added.
 */
function firstFree(kit: Kit): number {
  const wanted = new Set(Object.values(KEYS).flat())
  const free = kit.pads.flatMap((pad, index) => pad.layers.length === 0 && !pad.held ? [index] : [])
  const open = free.filter(index => kit.pads[index]!.role === null)
  return open.find(index => !wanted.has(kit.pads[index]!.note)) ?? open[0] ?? (kit.pads.length < MOST_PADS ? kit.pads.length : free[0] ?? kit.pads.length)
}
