import { noteName } from '../audio/notes'
import type { Kit } from '../kit/document'
import { padLabel } from '../kit/padLabel'
import { PERCUSSION_KEYS } from '../kit/percussionMap'
import { soundsOn } from '../kit/voices'

/** A note with all that it is called. */
export interface ChartedNote {
  readonly note: number
  readonly middleC3: string
  readonly middleC4: string
  readonly percussionKey: string
  /** Pads of the kit that it plays: label and name. */
  readonly pads: readonly string[]
}

/** All 128 notes, with their names by both octave conventions, their General MIDI percussion keys, and the pads they play. */
export function noteChart(kit: Kit): ChartedNote[] {
  return Array.from({ length: 128 }, (_, note) => ({
    note,
    middleC3: noteName(note, 'C3'),
    middleC4: noteName(note, 'C4'),
    percussionKey: PERCUSSION_KEYS[note] ?? '',
    pads: kit.pads.flatMap((pad, index) => pad.layers.length > 0 && soundsOn(pad, note) ? [`${padLabel(index)} ${pad.name}`.trim()] : []),
  }))
}
