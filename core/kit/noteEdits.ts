import type { Kit, NoteRange, Pad } from './document'
import { mapPads } from './edits'

const HIGHEST_NOTE = 127

/** The notes on which a pad sounds, from the lowest. */
export function notesOf({ note, range }: Pick<Pad, 'note' | 'range'>): number[] {
  return range === null ? [note] : Array.from({ length: range.high - range.low + 1 }, (_, i) => range.low + i)
}

/** Notes of pads that hold a sound. */
export function takenNotes(kit: Kit): Set<number> {
  return new Set(kit.pads.flatMap(pad => pad.layers.length > 0 ? notesOf(pad) : []))
}

/** A pad on another note: its range goes along, as far as there are notes. */
export function withNote(pad: Pad, note: number): Pad {
  const by = note - pad.note
  if (by === 0) return pad
  const moved = (range: NoteRange): NoteRange => ({ ...range, low: held(range.low + by), high: held(range.high + by), root: held(range.root + by) })
  return { ...pad, note, range: pad.range && moved(pad.range), layers: pad.layers.some(layer => layer.notes) ? pad.layers.map(layer => layer.notes ? { ...layer, notes: moved(layer.notes) } : layer) : pad.layers }
}

function held(note: number): number {
  return Math.max(0, Math.min(HIGHEST_NOTE, note))
}

/** A pad over notes, or by null on its own alone. Its own note is brought into the range; an empty or crossed range is put right. */
export function withRange(pad: Pad, range: NoteRange | null): Pad {
  if (range === null) return pad.range === null ? pad : { ...pad, range }
  const low = held(Math.min(range.low, range.high))
  const high = held(Math.max(range.low, range.high))
  return { ...pad, note: Math.max(low, Math.min(high, pad.note)), range: { ...range, low, high, root: held(range.root) } }
}

/** An octave around a pad's own note, whose pitch follows the keys: what a range begins with. */
export function usualRange({ note }: Pick<Pad, 'note'>): NoteRange {
  return { low: held(note - 6), high: held(note + 5), root: note, trackCents: 100 }
}

/** The lowest note above one that no pad with a sound has; below it where none is left above; undefined where all 128 are taken. */
export function nextFreeNote(kit: Kit, above: number): number | undefined {
  const taken = takenNotes(kit)
  const upwards = Array.from({ length: HIGHEST_NOTE + 1 }, (_, i) => (above + 1 + i) % (HIGHEST_NOTE + 1))
  return upwards.find(note => !taken.has(note))
}

/**
 * Frees notes from one on: pads with sounds on it and above move up by so many, and empty pads take the notes that they
 * leave. The kit itself where a pad would pass note 127.
 */
export function leaveRoom(kit: Kit, fromNote: number, count: number): Kit {
  const moving = kit.pads.flatMap((pad, index) => pad.layers.length > 0 && pad.note >= fromNote ? [index] : [])
  if (count < 1 || moving.some(index => Math.max(...notesOf(kit.pads[index]!)) + count > HIGHEST_NOTE)) return kit
  const moved = mapPads(kit, moving, pad => withNote(pad, pad.note + count))
  const taken = takenNotes(moved)
  const left = [...new Set(moving.map(index => kit.pads[index]!.note))].filter(note => !taken.has(note))
  const inTheWay = moved.pads.flatMap((pad, index) => pad.layers.length === 0 && taken.has(pad.note) ? [index] : [])
  return mapPads(moved, inTheWay, (pad, index) => {
    const note = left[inTheWay.indexOf(index)]
    return note === undefined ? pad : { ...pad, note }
  })
}

/**
 * Gives a pad a note. An empty pad that had that note takes the one that the pad leaves, so that none is there twice unseen.
 */
export function moveToNote(kit: Kit, padIndex: number, note: number): Kit {
  const pad = kit.pads[padIndex]
  if (!pad || pad.note === note) return kit
  const empty = kit.pads.flatMap((other, index) => other.note === note && other.layers.length === 0 ? [index] : [])
  return mapPads(kit, [padIndex, ...empty], (other, index) => withNote(other, index === padIndex ? note : pad.note))
}
