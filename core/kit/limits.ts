import { notesOf } from './noteEdits'
import { padLabel } from './padLabel'
import { counted } from '../wording'
import type { Kit } from './document'

/** What a kit may hold to suit a target. Absent limits are those of the kit itself. */
export interface Limits {
  readonly id: string
  readonly name: string
  /** The pads of one bank, as they lie. */
  readonly columns: number
  readonly rows: number
  readonly pads: number
  readonly lowNote: number
  readonly highNote: number
  /** Layers of one pad, those that take turns with them. */
  readonly layers: number
}

/** Something in a kit that a target will not take. */
export interface Beyond {
  readonly padIndex: number
  readonly limit: 'pads' | 'note' | 'layers'
  readonly what: string
  readonly next: string
}

/** What of a kit lies beyond a target's limits, pad by pad. */
export function beyondLimits(kit: Kit, limits: Limits): Beyond[] {
  let filled = 0
  return kit.pads.flatMap((pad, padIndex): Beyond[] => {
    if (pad.layers.length === 0) return []
    filled++
    const label = padLabel(padIndex)
    const found: Beyond[] = []
    if (filled > limits.pads) found.push({ padIndex, limit: 'pads', what: `${label} is the ${filled}th pad with a sound: ${limits.name} has ${limits.pads}.`, next: 'Clear a pad, or make a second kit of the rest.' })
    const outside = notesOf(pad).filter(note => note < limits.lowNote || note > limits.highNote)
    if (outside.length > 0) found.push({ padIndex, limit: 'note', what: `${outside.length === 1 ? `Note ${outside[0]} of ${label} is` : `Of the notes of ${label}, ${outside[0]} to ${outside.at(-1)} are`} not played by ${limits.name}: it has ${limits.lowNote} to ${limits.highNote}.`, next: 'Give the pad a free note within them.' })
    if (pad.layers.length > limits.layers && pad.alternate === null) found.push({ padIndex, limit: 'layers', what: `${label} has ${counted(pad.layers.length, 'layer')}: ${limits.name} has ${limits.layers}.`, next: 'Keep the layers that matter most.' })
    return found
  })
}
