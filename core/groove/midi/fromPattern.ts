import { percussionKeyOf } from '../../kit/percussionMap'
import type { Kit } from '../../kit/document'
import type { Limits } from '../../kit/limits'
import type { Assignment } from '../assign'
import { lengthTicks, type Part, type Pattern } from '../document'
import { swung } from '../swing'
import { writeMidi } from './write'

/** By which notes a pattern is written: those of its parts, of the pads that sound them, of the General MIDI percussion keys, or of a target's pads in their order. */
export type MidiNotes =
  | { readonly by: 'parts' }
  | { readonly by: 'kit', readonly kit: Kit, readonly assignment: Assignment }
  | { readonly by: 'percussion' }
  | { readonly by: 'target', readonly target: Limits, readonly assignment: Assignment }

export interface MidiWriting {
  readonly format: 0 | 1
  readonly notes: MidiNotes
  readonly channel?: number
}

/** A MIDI file, and what of the pattern did not go into it. */
export interface MidiWritten {
  readonly bytes: Uint8Array
  readonly left: readonly string[]
}

/** Writes a pattern as a Standard MIDI File, hits where they sound. A file holds no alternates, and nothing beyond the end. */
export function midiFromPattern(pattern: Pattern, { format, notes, channel = 10 }: MidiWriting): MidiWritten {
  const end = lengthTicks(pattern)
  const left: string[] = []
  const tracks = pattern.parts.flatMap((part) => {
    const note = noteFor(part, notes)
    if (note === undefined && part.hits.length > 0) left.push(`"${part.name}" has no note there. Hits left out: ${part.hits.length}.`)
    if (note === undefined) return []
    const heard = part.hits.filter(hit => hit.tick < end)
    return [{
      name: part.name,
      notes: heard.map(({ tick, length, velocity }) => {
        const at = Math.round(swung(tick, pattern.swing))
        return { tick: at, length: Math.max(1, Math.round(swung(tick + length, pattern.swing)) - at), note, velocity }
      }),
    }]
  })
  const beyond = pattern.parts.reduce((sum, part) => sum + part.hits.filter(hit => hit.tick >= end).length, 0)
  if (beyond > 0) left.push(`Hits beyond the end of the pattern: ${beyond}.`)
  const alternates = pattern.parts.reduce((sum, part) => sum + part.hits.filter(hit => hit.alternate !== undefined).length, 0)
  if (alternates > 0) left.push(`Hits that choose an alternate, which a MIDI note can't say: ${alternates}.`)
  return { bytes: writeMidi(tracks, { format, name: pattern.name, tempoBpm: pattern.tempoBpm, metre: pattern.metre, endTick: end, channel }), left }
}

function noteFor(part: Part, notes: MidiNotes): number | undefined {
  switch (notes.by) {
    case 'parts':
      return part.note
    case 'percussion':
      return (part.role === null ? undefined : percussionKeyOf(part.role)) ?? part.note
    case 'kit': {
      const note = notes.kit.pads[notes.assignment.get(part.id) ?? -1]?.note
      return note !== undefined && note <= 127 ? note : undefined
    }
    case 'target': {
      const index = notes.assignment.get(part.id) ?? null
      const note = index === null ? Infinity : notes.target.lowNote + index
      return note <= notes.target.highNote ? note : undefined
    }
  }
}
