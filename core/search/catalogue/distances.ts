import { DISTANCES_KERNEL } from './distancesKernel'

/** Bytes that a row takes; a vector may be shorter. */
export const ROW_BYTES = 128
const PAGE_BYTES = 65_536
/** The vector that others are compared with lies ahead of all rows. */
const FIRST_ROW = ROW_BYTES

type Kernel = (vector: number, row: number, end: number, out: number, most: number) => void

/**
 * Rows of bytes whose distances to one vector are had all at once: the sum of the differences of their values, each counted
 * up to a limit. In WebAssembly with SIMD it takes a tenth of the time.
 */
export class DistanceRows {
  private readonly memory = new WebAssembly.Memory({ initial: 1 })
  private readonly kernel: Kernel
  private room = 0

  constructor() {
    const { exports } = new WebAssembly.Instance(new WebAssembly.Module(DISTANCES_KERNEL), { catalogue: { memory: this.memory } })
    this.kernel = exports.distances as Kernel
  }

  /** @throws RangeError when the vector is longer than a row */
  set(row: number, vector: Uint8Array): void {
    if (vector.length > ROW_BYTES) throw new RangeError(`A vector of ${vector.length} values does not fit into a row of ${ROW_BYTES}.`)
    this.makeRoom(row + 1)
    const target = new Uint8Array(this.memory.buffer, FIRST_ROW + row * ROW_BYTES, ROW_BYTES)
    target.fill(0)
    target.set(vector)
  }

  /** The first values of a row. They are another row's once more are set. */
  get(row: number, length: number): Uint8Array {
    return new Uint8Array(this.memory.buffer, FIRST_ROW + row * ROW_BYTES, length)
  }

  /** The first so many rows as they lie here, to be written down. */
  save(rows: number): Uint8Array {
    this.makeRoom(rows)
    return new Uint8Array(this.memory.buffer, FIRST_ROW, rows * ROW_BYTES).slice()
  }

  /** Takes up rows that were written down, all at once. */
  restore(rows: Uint8Array): void {
    this.makeRoom(rows.length / ROW_BYTES)
    new Uint8Array(this.memory.buffer, FIRST_ROW).set(rows)
  }

  /** The distances of the first so many rows to a vector. They hold until anything else is asked. */
  to(vector: Uint8Array, rows: number, mostDifference: number): Uint16Array {
    this.makeRoom(rows)
    const head = new Uint8Array(this.memory.buffer, 0, ROW_BYTES)
    head.fill(0)
    head.set(vector)
    const end = FIRST_ROW + rows * ROW_BYTES
    this.kernel(0, FIRST_ROW, end, FIRST_ROW + this.room * ROW_BYTES, mostDifference)
    return new Uint16Array(this.memory.buffer, FIRST_ROW + this.room * ROW_BYTES, rows)
  }

  /** Makes the memory large enough for rows and, after them, a distance for each. */
  private makeRoom(rows: number): void {
    if (rows <= this.room) return
    this.room = Math.max(1024, rows, Math.ceil(this.room * 1.5))
    const bytes = FIRST_ROW + this.room * (ROW_BYTES + Uint16Array.BYTES_PER_ELEMENT)
    const more = Math.ceil(bytes / PAGE_BYTES) - this.memory.buffer.byteLength / PAGE_BYTES
    if (more > 0) this.memory.grow(more)
  }
}
