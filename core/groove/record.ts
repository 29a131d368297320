import { PERCUSSION_KINDS } from '../kit/percussionMap'
import type { Kit } from '../kit/document'
import type { Assignment } from './assign'
import type { Hit, Pattern } from './document'
import { addHits, addPart, changePart, ordered } from './edits'
import { quantizedTick, type QuantizeOptions } from './quantize'
import { unswung } from './swing'

/** A hit that was played. */
export interface PlayedHit {
  readonly padIndex: number
  /** Where in the pattern it was heard, as it swings, with a fraction. */
  readonly place: number
  readonly velocity: number
}

/**
 * The part that a pad is recorded into: the one that sounds it, or else a new one, at the end.
 *
 * @param assignment of the pattern on the kit
 */
export function partForPad(pattern: Pattern, kit: Kit, assignment: Assignment, padIndex: number): { readonly pattern: Pattern, readonly partId: string | undefined } {
  const known = pattern.parts.find(part => assignment.get(part.id) === padIndex)
  if (known) return { pattern, partId: known.id }
  const pad = kit.pads[padIndex]
  if (!pad) return { pattern, partId: undefined }
  const grown = addPart(pattern, { name: pad.name, role: pad.role ?? PERCUSSION_KINDS[pad.note] ?? null, note: pad.note })
  return { pattern: grown, partId: grown === pattern ? undefined : grown.parts.at(-1)!.id }
}

/** Between which ticks is recorded: what passes the end begins anew. */
export interface RecordRange {
  readonly from: number
  readonly to: number
}

/** A hit as it is written down: at a whole tick, off the swing, drawn to a grid if one is given. */
export function hitFrom({ place, velocity }: PlayedHit, pattern: Pattern, length: number, { from, to }: RecordRange, quantizing?: QuantizeOptions): Hit {
  const wrap = (tick: number) => tick >= to ? from + (tick - to) % Math.max(1, to - from) : Math.max(from, tick)
  const played = wrap(Math.round(unswung(place, pattern.swing)))
  if (!quantizing) return { tick: played, velocity, length }
  const tick = wrap(quantizedTick(played, quantizing, pattern.metre))
  return tick === played ? { tick, velocity, length } : { tick, velocity, length, playedTick: played }
}

/** Writes a hit into a part. Where the part has one at that very tick, the harder stays. */
export function recordHit(pattern: Pattern, partId: string, hit: Hit): Pattern {
  const same = pattern.parts.find(part => part.id === partId)?.hits.find(other => other.tick === hit.tick)
  if (!same) return addHits(pattern, partId, [hit]).pattern
  return changePart(pattern, partId, part => ({ ...part, hits: ordered(part.hits.map(other => other === same ? { ...hit, velocity: Math.max(hit.velocity, same.velocity) } : other)) }))
}
