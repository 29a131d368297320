import { FEATURES } from '../../audio/analysis/features'
import { MOST_DIFFERENCE, nearness, type Nearness } from '../../audio/analysis/nearness'
import type { Bits } from './bits'
import { DistanceRows } from './distances'

/** A sound and how near it is. */
export interface Neighbour {
  readonly slot: number
  readonly nearness: Nearness
}

/** Vectors that were written down: one after the other, and whether each slot has one. */
export interface SavedVectors {
  readonly rows: Uint8Array
  readonly has: Uint8Array
}

/** The feature vectors of all sounds by slot. */
export class Vectors {
  private readonly rows = new DistanceRows()
  private readonly has: boolean[] = []

  set(slot: number, vector: Uint8Array): void {
    if (vector.length !== FEATURES) return
    this.rows.set(slot, vector)
    this.has[slot] = true
  }

  get(slot: number): Uint8Array | undefined {
    return this.has[slot] ? this.rows.get(slot, FEATURES).slice() : undefined
  }

  /** All that is here, to be written down. */
  save(): SavedVectors {
    const has = Uint8Array.from(this.has, known => known ? 1 : 0)
    const rows = new Uint8Array(has.length * FEATURES)
    has.forEach((known, slot) => known && rows.set(this.rows.get(slot, FEATURES), slot * FEATURES))
    return { rows, has }
  }

  /** Takes up what was written down. */
  restore({ rows, has }: SavedVectors): void {
    // The last one first, so that there is room for all at once.
    for (let slot = has.length - 1; slot >= 0; slot--) if (has[slot] === 1) this.set(slot, rows.subarray(slot * FEATURES, (slot + 1) * FEATURES))
  }

  /** The nearest of some sounds to a vector, the nearest first; of equally near ones the lower slot. */
  nearest(vector: Uint8Array, among: Bits, most: number): Neighbour[] {
    const distances = this.rows.to(vector, this.has.length, MOST_DIFFERENCE)
    const slots: number[] = []
    const counts = new Uint32Array(FEATURES * MOST_DIFFERENCE + 1)
    among.each((slot) => {
      if (!this.has[slot]) return
      slots.push(slot)
      counts[distances[slot]!]!++
    })
    const limit = limitOf(counts, most)
    // Of one distance the lower slots come first, since slots come in order and sorting keeps it.
    return slots.filter(slot => distances[slot]! <= limit).sort((a, b) => distances[a]! - distances[b]!).slice(0, most)
      .map(slot => ({ slot, nearness: nearness(vector, this.rows.get(slot, FEATURES)) }))
  }
}

/** The distance within which at least so many lie, or all. */
function limitOf(counts: Uint32Array, wanted: number): number {
  let sum = 0
  const limit = counts.findIndex((count) => {
    sum += count
    return sum >= wanted
  })
  return limit < 0 ? counts.length : limit
}
