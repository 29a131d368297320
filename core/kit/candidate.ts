import { emptyPad, type Kit, type Pad } from './document'
import { placeSounds, setLayer, type SoundToPlace } from './edits'

/** What becomes of a pad's settings when another sound is tried on it: they stay, or the sound is heard as it is. */
export type TriedSettings = 'kept' | 'reset'

/** Puts a sound on some pads in place of what they hold, at a level for each. What joins a pad to others (its notes, choke groups, articulation, output, states) stays in any case. */
export function putCandidate(kit: Kit, padIndexes: readonly number[], sound: SoundToPlace, gainDbOf: (padIndex: number) => number, settings: TriedSettings): Kit {
  return padIndexes.reduce((now, index) => {
    const placed = setLayer(placeSounds(now, index, [sound]).kit, index, 0, { gainDb: Math.max(-96, Math.min(24, gainDbOf(index))) })
    return settings === 'kept' ? placed : { ...placed, pads: placed.pads.with(index, plain(placed.pads[index]!)) }
  }, kit)
}

function plain({ name, role, note, range, chokeGroup, chokedBy, chokeSeconds, articulation, output, muted, soloed, held, notes, layers }: Pad): Pad {
  return { ...emptyPad(note), name, role, range, chokeGroup, chokedBy, chokeSeconds, articulation, output, muted, soloed, held, notes, layers }
}
