import type { Kit } from '../kit/document'
import { assignParts, type Assignment } from './assign'
import { barTicks, beatTicks, lengthTicks, TICKS_PER_QUARTER, type Hit, type Pattern } from './document'
import { swung } from './swing'

/** A pattern as it is played again and again: notes in columns, in the order of their ticks. */
export interface PlayedPattern {
  /** It repeats after so many ticks. */
  readonly lengthTicks: number
  readonly barTicks: number
  readonly beatTicks: number
  /** Where each note begins, with a fraction where it swings. */
  readonly ticks: Float64Array
  readonly lengths: Float64Array
  readonly notes: Uint16Array
  readonly velocities: Uint8Array
  /** -1: the one that the pad has chosen. */
  readonly alternates: Int8Array
}

/** One note before it is put in columns. */
export interface PlayedNote {
  readonly tick: number
  readonly length: number
  readonly note: number
  readonly velocity: number
  readonly alternate?: number
}

/** The part of a pattern that is played: whole bars, counted from 0. */
export interface BarRange {
  readonly from: number
  /** The bar after the last. */
  readonly to: number
}

/** Puts notes in the order of their ticks, as columns. Those that begin at the end or after it are left out. */
export function toColumns(notes: readonly PlayedNote[], length: number, metre: Pick<Pattern, 'metre'>['metre']): PlayedPattern {
  const sorted = notes.filter(one => one.tick >= 0 && one.tick < length).sort((a, b) => a.tick - b.tick || a.note - b.note)
  return {
    lengthTicks: length,
    barTicks: barTicks(metre),
    beatTicks: beatTicks(metre),
    ticks: Float64Array.from(sorted, one => one.tick),
    lengths: Float64Array.from(sorted, one => one.length),
    notes: Uint16Array.from(sorted, one => one.note),
    velocities: Uint8Array.from(sorted, one => one.velocity),
    alternates: Int8Array.from(sorted, one => one.alternate ?? -1),
  }
}

/**
 * What is heard of a pattern on a kit: the hits of parts that have a pad, at their swung places, within some bars.
 *
 * @param without hits that are left out
 */
export function playedOn(pattern: Pattern, kit: Kit, assignment: Assignment, { bars = { from: 0, to: pattern.bars }, without }: { readonly bars?: BarRange, readonly without?: ReadonlySet<Hit> } = {}): PlayedPattern {
  const bar = barTicks(pattern.metre)
  const [from, to] = [bars.from * bar, Math.min(bars.to * bar, lengthTicks(pattern))]
  const notes: PlayedNote[] = []
  for (const part of pattern.parts) {
    const pad = kit.pads[assignment.get(part.id) ?? -1]
    if (!pad) continue
    for (const hit of part.hits) {
      if (hit.tick < from || hit.tick >= to || without?.has(hit)) continue
      const tick = swung(hit.tick, pattern.swing)
      notes.push({ tick: tick - from, length: swung(hit.tick + hit.length, pattern.swing) - tick, note: pad.note, velocity: hit.velocity, alternate: hit.alternate })
    }
  }
  return toColumns(notes, Math.max(1, to - from), pattern.metre)
}

/** A pattern of so many quarter notes, from notes that begin at a quarter, for the simple ones that nobody wrote. */
export function playedFromBeats(beats: number, notes: readonly { readonly beat: number, readonly note: number, readonly velocity: number }[]): PlayedPattern {
  const all = notes.map(({ beat, note, velocity }) => ({ tick: beat * TICKS_PER_QUARTER, length: TICKS_PER_QUARTER / 4, note, velocity }))
  return toColumns(all, beats * TICKS_PER_QUARTER, { beats: 4, unit: 4 })
}

/** The values that a pattern asks of pads that have alternates, by the index of the pad. */
export function alternatesAsked(pattern: Pattern, assignment: Assignment): ReadonlyMap<number, ReadonlySet<number>> {
  const asked = new Map<number, Set<number>>()
  for (const part of pattern.parts) {
    const index = assignment.get(part.id) ?? null
    if (index === null) continue
    for (const { alternate } of part.hits) {
      if (alternate === undefined) continue
      const values = asked.get(index) ?? new Set()
      asked.set(index, values.add(alternate))
    }
  }
  return asked
}

/** A pattern once through on a kit, by kind, in seconds. */
export function timedNotes(pattern: Pattern, kit: Kit): { readonly atSeconds: number, readonly note: number, readonly velocity: number, readonly lengthSeconds: number }[] {
  const { ticks, lengths, notes, velocities } = playedOn(pattern, kit, assignParts(pattern, kit, 'kind'))
  const seconds = 60 / (pattern.tempoBpm * TICKS_PER_QUARTER)
  return [...ticks].map((tick, i) => ({ atSeconds: tick * seconds, note: notes[i]!, velocity: velocities[i]!, lengthSeconds: lengths[i]! * seconds }))
}
