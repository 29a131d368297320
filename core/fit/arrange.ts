import { percussionKeyOf } from '../kit/percussionMap'
import { notesOf } from '../kit/noteEdits'
import type { Kit } from '../kit/document'
import { holds, slotsOf, type Target } from './target'

/** How pads find their places on a target. */
export const ARRANGING = ['note', 'role', 'position'] as const
export type Arranging = typeof ARRANGING[number]

/** Where a pad goes. */
export interface Arranged {
  readonly padIndex: number
  /** Its place on the target, from 0. */
  readonly slot: number
  readonly fromNote: number
  readonly toNote: number
}

/** How a target's pads are found unless the user says otherwise: where each has its note, the order of the pads counts. */
export function usualArranging(target: Target): Arranging {
  return target.notes.way === 'fixed' ? 'position' : 'note'
}

/**
 * Finds a place and a note on a target for each pad: by its own note, by the note of its role in the General MIDI percussion key
 * map, or in order. Pads whose place is taken or outside go to the next free one.
 *
 * @param padIndexes the pads that stay, no more than the target has room for
 */
export function arrange(kit: Kit, padIndexes: readonly number[], target: Target, way: Arranging): Arranged[] {
  const places = target.notes.way === 'fixed' ? onFixedNotes(kit, padIndexes, target, way) : onFreeNotes(kit, padIndexes, target, way)
  return places.toSorted((a, b) => a.slot - b.slot)
}

function wantedNote(kit: Kit, padIndex: number, way: Arranging): number {
  const pad = kit.pads[padIndex]!
  return way === 'role' && pad.role !== null ? percussionKeyOf(pad.role) ?? pad.note : pad.note
}

function onFixedNotes(kit: Kit, padIndexes: readonly number[], target: Target, way: Arranging): Arranged[] {
  const slots = slotsOf(target)
  const taken = new Set<number>()
  const wanted = (padIndex: number) => way === 'position' ? target.pads.inBank === 16 ? padIndex : -1 : wantedNote(kit, padIndex, way) - target.notes.first
  const place = (padIndex: number, slot: number): Arranged => {
    taken.add(slot)
    return { padIndex, slot, fromNote: kit.pads[padIndex]!.note, toNote: target.notes.first + slot }
  }
  const isFree = (slot: number) => slot >= 0 && slot < slots && !taken.has(slot)
  const first = padIndexes.map(padIndex => isFree(wanted(padIndex)) ? place(padIndex, wanted(padIndex)) : padIndex)
  const free = Array.from({ length: slots }, (_, slot) => slot).filter(slot => !taken.has(slot))
  return first.map(found => typeof found === 'number' ? place(found, free.shift() ?? slots - 1) : found)
}

function onFreeNotes(kit: Kit, padIndexes: readonly number[], target: Target, way: Arranging): Arranged[] {
  const { first, last } = target.notes
  const taken = new Set<number>()
  const mayShare = holds(target, 'stacks') && way === 'note'
  const wanted = (padIndex: number) => way === 'position' ? -1 : wantedNote(kit, padIndex, way)
  const suits = (note: number) => note >= first && note <= last && (mayShare || !taken.has(note))
  const notes = new Map<number, number>()
  // A range stays where it is, since its pitches go with its notes.
  const ranged = holds(target, 'note ranges') ? padIndexes.filter(index => kit.pads[index]!.range !== null) : []
  for (const padIndex of ranged) {
    notes.set(padIndex, kit.pads[padIndex]!.note)
    for (const note of notesOf(kit.pads[padIndex]!)) taken.add(note)
  }
  for (const padIndex of padIndexes.filter(index => !notes.has(index))) {
    const note = wanted(padIndex)
    if (!suits(note)) continue
    taken.add(note)
    notes.set(padIndex, note)
  }
  // From the usual first pad up, then what lies below it.
  const order = Array.from({ length: last - first + 1 }, (_, i) => first + i)
  const start = Math.max(first, Math.min(36, last))
  const free = [...order.filter(note => note >= start), ...order.filter(note => note < start)].filter(note => !taken.has(note))
  return padIndexes.map((padIndex, slot) => ({ padIndex, slot, fromNote: kit.pads[padIndex]!.note, toNote: notes.get(padIndex) ?? free.shift() ?? last }))
}
