import { MOST_LAYERS, MOST_PADS } from '../kit/document'
import type { Limits } from '../kit/limits'

/** Targets of a general kind, by their limits. */
export const TARGETS: readonly Limits[] = [
  // 16 pads from note 36 up to 51: common practice (references.md, "a standard layout").
  { id: 'sixteen-pads', name: '16 pads, 4 × 4', columns: 4, rows: 4, pads: 16, lowNote: 36, highNote: 51, layers: MOST_LAYERS },
  { id: 'sixteen-pads-wide', name: '16 pads, 8 × 2', columns: 8, rows: 2, pads: 16, lowNote: 36, highNote: 51, layers: MOST_LAYERS },
  // 8 banks x 16 pads: references.md, "capacity".
  { id: 'eight-banks', name: '8 banks of 16 pads', columns: 4, rows: 4, pads: MOST_PADS, lowNote: 0, highNote: 127, layers: MOST_LAYERS },
  // General MIDI System Level 1, percussion key map: keys 35 to 81.
  { id: 'gm-percussion', name: 'General MIDI percussion', columns: 4, rows: 4, pads: 47, lowNote: 35, highNote: 81, layers: MOST_LAYERS },
  { id: 'one-layer', name: 'One sound a pad', columns: 4, rows: 4, pads: MOST_PADS, lowNote: 0, highNote: 127, layers: 1 },
]

/** The limits of a target by its name; undefined for none, and for one that is not known here. */
export function targetOf(id: string | null): Limits | undefined {
  return TARGETS.find(target => target.id === id)
}
