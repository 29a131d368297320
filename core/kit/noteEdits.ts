import type { Kit } from './document'
import { mapPads } from './edits'

const HIGHEST_NOTE = 127

/** Notes of pads that hold a sound. */
export function takenNotes(kit: Kit): Set<number> {
  return new Set(kit.pads.flatMap(pad => pad.layers.length > 0 ? [pad.note] : []))
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
  if (count < 1 || moving.some(index => kit.pads[index]!.note + count > HIGHEST_NOTE)) return kit
  const moved = mapPads(kit, moving, pad => ({ ...pad, note: pad.note + count }))
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
  return mapPads(kit, [padIndex, ...empty], (other, index) => ({ ...other, note: index === padIndex ? note : pad.note }))
}
