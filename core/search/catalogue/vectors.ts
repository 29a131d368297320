import { FEATURES } from '../../audio/analysis/features'
import { nearness, rowDistance, type Nearness } from '../../audio/analysis/nearness'
import type { Bits } from './bits'

/** A sound and how near it is. */
export interface Neighbour {
  readonly slot: number
  readonly nearness: Nearness
}

/** More than any two vectors can differ. */
const FARTHEST = 2 ** 15

/** The feature vectors of all sounds, one after the other by slot. */
export class Vectors {
  private rows = new Uint8Array(1024 * FEATURES)
  private has = new Uint8Array(1024)

  set(slot: number, vector: Uint8Array): void {
    if (vector.length !== FEATURES) return
    if (slot >= this.has.length) {
      const room = Math.max(slot + 1, Math.ceil(this.has.length * 1.5))
      const [rows, has] = [new Uint8Array(room * FEATURES), new Uint8Array(room)]
      rows.set(this.rows)
      has.set(this.has)
      this.rows = rows
      this.has = has
    }
    this.rows.set(vector, slot * FEATURES)
    this.has[slot] = 1
  }

  get(slot: number): Uint8Array | undefined {
    return this.has[slot] === 1 ? this.rows.slice(slot * FEATURES, (slot + 1) * FEATURES) : undefined
  }

  /** The nearest of some sounds to a vector, the nearest first; of equally near ones the lower slot. */
  nearest(vector: Uint8Array, among: Bits, most: number): Neighbour[] {
    // Distances are whole numbers below 2^15, slots below 2^21: one number holds both and sorts by them.
    let worst = FARTHEST
    const found: number[] = []
    among.each((slot) => {
      if (this.has[slot] !== 1) return
      const distance = rowDistance(vector, this.rows, slot * FEATURES, worst)
      if (distance >= worst) return
      found.push(distance * 2 ** 21 + slot)
      if (found.length < most * 2) return
      // Now and then the further half is dropped, and what is further than the rest is not looked at to its end any more.
      found.sort((a, b) => a - b)
      found.length = most
      worst = Math.floor(found[most - 1]! / 2 ** 21)
    })
    return found.sort((a, b) => a - b).slice(0, most).map((key) => {
      const slot = key % 2 ** 21
      return { slot, nearness: nearness(vector, this.rows.subarray(slot * FEATURES, (slot + 1) * FEATURES)) }
    })
  }
}
