import type { Kit } from './document'
import { soundsOn } from './voices'

export const MOST_OCTAVES = 4
const OCTAVE = 12

/** A note some octaves higher or lower; undefined where MIDI has none. */
export function shiftedNote(note: number, octaves: number): number | undefined {
  const shifted = note + OCTAVE * octaves
  return shifted >= 0 && shifted <= 127 ? shifted : undefined
}

/**
 * How many octaves a keyboard has to be shifted for a note to reach a pad with a sound: the smallest shift, upwards where two are.
 *
 * @returns undefined where a pad has the note itself, or none has it in any octave
 */
export function octavesOff(kit: Kit, note: number): number | undefined {
  const sounds = (wanted: number | undefined) => wanted !== undefined && kit.pads.some(pad => pad.layers.length > 0 && soundsOn(pad, wanted))
  if (sounds(note)) return undefined
  return Array.from({ length: 10 }, (_, i) => i + 1).flatMap(octaves => [octaves, -octaves]).find(octaves => sounds(shiftedNote(note, octaves)))
}
