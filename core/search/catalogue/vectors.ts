import { FEATURES } from '../../audio/analysis/features'
import { MOST_DIFFERENCE, nearness, type Nearness } from '../../audio/analysis/nearness'
import type { Bits } from './bits'
import { DistanceRows } from './distances'

/** A sound and how near it is. */
export interface Neighbour {
  readonly slot: number
  readonly nearness: Nearness
}

/** Vectors that were written down: the rows of `DistanceRows`, and whether each slot has one. */
export interface SavedVectors {
  readonly rows: Uint8Array
  readonly has: Uint8Array
}

/** The feature vectors of all sounds by slot. */
export class Vectors {
  private readonly rows = new DistanceRows()
  /** 1 for each slot that has a vector. */
  private has: Uint8Array = new Uint8Array(1024)
  /** One above the highest slot that has ever had one. */
  private size = 0

  set(slot: number, vector: Uint8Array): void {
    if (vector.length !== FEATURES) return
    this.rows.set(slot, vector)
    if (slot >= this.has.length) {
      const larger = new Uint8Array(Math.ceil(slot * 1.5) + 1)
      larger.set(this.has)
      this.has = larger
    }
    this.has[slot] = 1
    this.size = Math.max(this.size, slot + 1)
  }

  get(slot: number): Uint8Array | undefined {
    return this.has[slot] === 1 ? this.rows.get(slot, FEATURES).slice() : undefined
  }

  /** All that is here, to be written down. */
  save(): SavedVectors {
    return { rows: this.rows.save(this.size), has: this.has.slice(0, this.size) }
  }

  /** Takes up what was written down. */
  restore({ rows, has }: SavedVectors): void {
    this.rows.restore(rows)
    this.has = has
    this.size = has.length
  }

  /** The nearest of some sounds to a vector, the nearest first; of equally near ones the lower slot. */
  nearest(vector: Uint8Array, among: Bits, most: number): Neighbour[] {
    const { has } = this
    const distances = this.rows.to(vector, this.size, MOST_DIFFERENCE)
    const counts = new Uint32Array(FEATURES * MOST_DIFFERENCE + 1)
    among.each((slot) => {
      if (has[slot] === 1) counts[distances[slot]!]!++
    })
    const limit = limitOf(counts, most)
    const slots: number[] = []
    among.each((slot) => {
      if (has[slot] === 1 && distances[slot]! <= limit) slots.push(slot)
    })
    // Of one distance the lower slots come first, since slots come in order and sorting keeps it.
    return slots.sort((a, b) => distances[a]! - distances[b]!).slice(0, most)
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
