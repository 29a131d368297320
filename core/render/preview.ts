import type { Kit } from '../kit/document'
import type { TimedNote } from './offline'

const GAP_SECONDS = 0.35
const MOST_PADS_HEARD = 32
const PREVIEW_VELOCITY = 100

/** The notes of a preset's preview: its filled pads in order, one after the other, up to 32 of them. */
export function previewNotes(kit: Kit): TimedNote[] {
  return kit.pads
    .filter(pad => pad.layers.length > 0)
    .slice(0, MOST_PADS_HEARD)
    .map((pad, i) => ({ atSeconds: i * GAP_SECONDS, note: pad.note, velocity: PREVIEW_VELOCITY, lengthSeconds: GAP_SECONDS * 2 }))
}
