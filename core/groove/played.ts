import type { Kit, Pad } from '../kit/document'
import { NOTES } from '../kit/joinKits'
import { soundsOn } from '../kit/voices'
import { assignParts, type Assignment } from './assign'
import { barTicks, beatTicks, lengthTicks, TICKS_PER_QUARTER, type Hit, type Part, type Pattern, type Swing } from './document'
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
interface PlayedNote {
  readonly tick: number
  readonly length: number
  readonly note: number
  readonly velocity: number
  readonly alternate?: number | undefined
}

/** The part of a pattern that is played: whole bars, counted from 0. */
export interface BarRange {
  readonly from: number
  /** The bar after the last. */
  readonly to: number
}

/** Notes in columns. They must be in the order of their ticks. */
function columns(notes: readonly PlayedNote[], length: number, metre: Pattern['metre']): PlayedPattern {
  const count = notes.length
  const played = { ticks: new Float64Array(count), lengths: new Float64Array(count), notes: new Uint16Array(count), velocities: new Uint8Array(count), alternates: new Int8Array(count) }
  for (let i = 0; i < count; i++) {
    const one = notes[i]!
    played.ticks[i] = one.tick
    played.lengths[i] = one.length
    played.notes[i] = one.note
    played.velocities[i] = one.velocity
    played.alternates[i] = one.alternate ?? -1
  }
  return { lengthTicks: length, barTicks: barTicks(metre), beatTicks: beatTicks(metre), ...played }
}

/**
 * Merges rows that are in the order of their ticks, two by two; what falls together comes in the order of notes, and of rows. For a
 * pattern of thousands of hits this is done at every hit that is recorded: sorting them all takes many times as long.
 */
function merged<N extends PlayedNote>(rows: readonly (readonly N[])[]): readonly N[] {
  if (rows.length < 2) return rows[0] ?? []
  const half = rows.length >> 1
  return mergedTwo(merged(rows.slice(0, half)), merged(rows.slice(half)))
}

function mergedTwo<N extends PlayedNote>(one: readonly N[], other: readonly N[]): readonly N[] {
  // Plain counters: this runs before it is compiled, when the first hit is recorded.
  const out: N[] = []
  let i = 0
  let k = 0
  while (i < one.length && k < other.length) {
    const a = one[i]!
    const b = other[k]!
    if (b.tick < a.tick || (b.tick === a.tick && b.note < a.note)) {
      out.push(b)
      k++
    }
    else {
      out.push(a)
      i++
    }
  }
  while (i < one.length) out.push(one[i++]!)
  while (k < other.length) out.push(other[k++]!)
  return out
}

/**
 * What is heard of a pattern on a kit: the hits of parts that have a pad, at their swung places, within some bars.
 *
 * @param without hits that are left out
 */
export function playedOn(pattern: Pattern, kit: Kit, assignment: Assignment, { bars = { from: 0, to: pattern.bars }, without }: { readonly bars?: BarRange, readonly without?: ReadonlySet<Hit> } = {}): PlayedPattern {
  const bar = barTicks(pattern.metre)
  const [from, to] = [bars.from * bar, Math.min(bars.to * bar, lengthTicks(pattern))]
  const rows = pattern.parts.flatMap((part) => {
    const pad = kit.pads[assignment.get(part.id) ?? -1]
    return pad ? [rowOf(part, noteOfPart(pad, part), pattern.swing, from, to)] : []
  })
  const notes = merged(rows)
  return columns(without && without.size > 0 ? notes.filter(({ hit }) => !without.has(hit)) : notes, Math.max(1, to - from), pattern.metre)
}

/** The note by which a part plays a pad: its own if the pad has a range that includes it, else the pad's. Each of several joined kits has 128 notes. */
export function noteOfPart(pad: Pad, { note }: Part): number {
  const here = pad.note - pad.note % NOTES + note
  return pad.range && soundsOn(pad, here) ? here : pad.note
}

/** A note of a part, and the hit that it comes from. */
interface PartNote extends PlayedNote {
  readonly hit: Hit
}

/** Of each part the row that was asked for last: an edit leaves most parts the same objects. */
const lastRows = new WeakMap<Part, { readonly asked: string, readonly row: readonly PartNote[] }>()

function rowOf(part: Part, note: number, swing: Swing, from: number, to: number): readonly PartNote[] {
  const asked = `${note} ${swing.percent} ${swing.step} ${from} ${to}`
  const known = lastRows.get(part)
  if (known?.asked === asked) return known.row
  const row: PartNote[] = []
  for (const hit of part.hits) {
    if (hit.tick < from || hit.tick >= to) continue
    // Swing moves hits, but none past another.
    const tick = swung(hit.tick, swing)
    if (tick < to) row.push({ tick: tick - from, length: swung(hit.tick + hit.length, swing) - tick, note, velocity: hit.velocity, alternate: hit.alternate, hit })
  }
  lastRows.set(part, { asked, row })
  return row
}

/** A pattern of so many quarter notes, from notes that begin at a quarter, for the simple ones that nobody wrote. Those that begin at its end or after it are left out. */
export function playedFromBeats(beats: number, notes: readonly { readonly beat: number, readonly note: number, readonly velocity: number }[]): PlayedPattern {
  const all = notes.filter(({ beat }) => beat < beats).map(({ beat, note, velocity }) => ({ tick: beat * TICKS_PER_QUARTER, length: TICKS_PER_QUARTER / 4, note, velocity }))
  return columns(all.sort((a, b) => a.tick - b.tick || a.note - b.note), beats * TICKS_PER_QUARTER, { beats: 4, unit: 4 })
}

/** The values that a pattern asks of pads that have alternates, by the index of the pad. */
export function alternatesAsked(pattern: Pattern, assignment: Assignment): ReadonlyMap<number, ReadonlySet<number>> {
  const asked = new Map<number, Set<number>>()
  for (const part of pattern.parts) {
    const index = assignment.get(part.id) ?? null
    const values = alternatesOf(part)
    if (index === null || values.size === 0) continue
    const known = asked.get(index) ?? new Set()
    for (const value of values) known.add(value)
    asked.set(index, known)
  }
  return asked
}

const lastAlternates = new WeakMap<Part, ReadonlySet<number>>()

function alternatesOf(part: Part): ReadonlySet<number> {
  const known = lastAlternates.get(part)
  if (known) return known
  const values = new Set<number>()
  for (const hit of part.hits) if (hit.alternate !== undefined) values.add(hit.alternate)
  lastAlternates.set(part, values)
  return values
}

/** A pattern once through on a kit, by kind, in seconds. */
export function timedNotes(pattern: Pattern, kit: Kit): { readonly atSeconds: number, readonly note: number, readonly velocity: number, readonly lengthSeconds: number }[] {
  const { ticks, lengths, notes, velocities } = playedOn(pattern, kit, assignParts(pattern, kit, 'kind'))
  const seconds = 60 / (pattern.tempoBpm * TICKS_PER_QUARTER)
  return [...ticks].map((tick, i) => ({ atSeconds: tick * seconds, note: notes[i]!, velocity: velocities[i]!, lengthSeconds: lengths[i]! * seconds }))
}
