import { PERCUSSION_KINDS } from '../kit/percussionMap'
import type { Kit, Pad } from '../kit/document'
import { soundsOn } from '../kit/voices'
import { topKind } from '../search/kinds'
import type { Part, Pattern } from './document'

/** How pads are found for parts: by the kind that both are meant for, or by the note alone. */
export const ASSIGNING = ['kind', 'note'] as const
export type Assigning = typeof ASSIGNING[number]

/** Pads that a person chose for parts, by the part's id: the pad's note, or null for none at all. */
export type ByHand = Readonly<Record<string, number | null>>

/** Which pad each part of a pattern sounds, by the part's id; null: none, its hits are not heard. */
export type Assignment = ReadonlyMap<string, number | null>

/**
 * Finds the pad for each part of a pattern: the one chosen by hand; else, by kind, a pad of the same kind (of several the one on
 * the part's own note, then one that no other part has), then one of the nearest kind, then the one on its note; or by note alone.
 * Only pads that hold a sound are found.
 */
export function assignParts(pattern: Pick<Pattern, 'parts'>, kit: Kit, way: Assigning, byHand: ByHand = {}): Assignment {
  const found = new Map<string, number | null>()
  const taken = new Set<number>()
  const take = (part: Part, index: number | undefined) => {
    if (index === undefined || found.has(part.id)) return
    found.set(part.id, index)
    taken.add(index)
  }
  for (const part of pattern.parts) {
    const chosen = byHand[part.id]
    if (chosen === null) found.set(part.id, null)
    else if (chosen !== undefined) take(part, onNote(kit, chosen))
  }
  if (way === 'note') for (const part of pattern.parts) take(part, onNote(kit, part.note))
  else {
    // Parts whose own note carries their kind choose first, so that none loses its pad to a part that would take any.
    for (const near of [sameKindAndNote, sameKind, sameTopKindAndNote, sameTopKind, sameKindTaken, onOwnNote]) {
      for (const part of pattern.parts) if (!found.has(part.id)) take(part, near(kit, part, taken))
    }
  }
  return new Map(pattern.parts.map(part => [part.id, found.get(part.id) ?? null]))
}

/** The kind that a pad is played as: what it is meant for, or the kind of its percussion key. */
export function kindOfPad(pad: Pad): string | null {
  return pad.role ?? PERCUSSION_KINDS[pad.note] ?? null
}

type Finder = (kit: Kit, part: Part, taken: ReadonlySet<number>) => number | undefined

const sameKindAndNote: Finder = (kit, part, taken) => pick(kit, (pad, index) => !taken.has(index) && soundsOn(pad, part.note) && (part.role === null || kindOfPad(pad) === part.role))
const sameKind: Finder = (kit, part, taken) => pick(kit, (pad, index) => !taken.has(index) && part.role !== null && kindOfPad(pad) === part.role)
const sameTopKindAndNote: Finder = (kit, part, taken) => pick(kit, (pad, index) => !taken.has(index) && soundsOn(pad, part.note) && isNear(pad, part.role))
/** An open hat stands in for a closed one before a tom does, and a crash for a ride. */
const sameTopKind: Finder = (kit, part, taken) => pick(kit, (pad, index) => !taken.has(index) && isNear(pad, part.role))
const sameKindTaken: Finder = (kit, { role }) => pick(kit, pad => kindOfPad(pad) === role && role !== null) ?? pick(kit, pad => isNear(pad, role))
const onOwnNote: Finder = (kit, part) => onNote(kit, part.note)

function isNear(pad: Pad, role: string | null): boolean {
  const kind = kindOfPad(pad)
  return kind !== null && role !== null && topKind(kind) === topKind(role)
}

function onNote(kit: Kit, note: number): number | undefined {
  return pick(kit, pad => pad.note === note) ?? pick(kit, pad => soundsOn(pad, note))
}

function pick(kit: Kit, suits: (pad: Pad, index: number) => boolean): number | undefined {
  const index = kit.pads.findIndex((pad, i) => pad.layers.length > 0 && suits(pad, i))
  return index < 0 ? undefined : index
}

/** Parts with hits that no pad sounds, and how many hits those are. */
export function unheard(pattern: Pick<Pattern, 'parts'>, assignment: Assignment): { readonly parts: readonly Part[], readonly hits: number } {
  const parts = pattern.parts.filter(part => part.hits.length > 0 && (assignment.get(part.id) ?? null) === null)
  return { parts, hits: parts.reduce((sum, part) => sum + part.hits.length, 0) }
}
