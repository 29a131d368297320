import { layStretch } from './lay'
import { POLYPHASE_KERNEL } from './polyphaseKernel'
import type { SincKernel } from './sinc'

type Convert = (input: number, out: number, count: number, phase: number, up: number, down: number, table: number, rowBytes: number) => void

const PAGE_BYTES = 65_536
const FLOAT_BYTES = 4
/** Values that are read at a time. */
const LANES = 8
const OUT_FLOATS = 8_192

/**
 * Converts channels by a table with a row for each phase of a ratio of rates, in WebAssembly with SIMD: a fifth of the time of
 * the same in plain code. The input goes through its memory stretch by stretch.
 */
export class Polyphase {
  private readonly memory = new WebAssembly.Memory({ initial: 1 })
  private readonly run: Convert
  private readonly rowFloats: number
  private readonly tableFloats: number
  private readonly windowFloats: number
  private readonly floats: Float32Array

  /** @param kernel with as many phases as `up` */
  constructor(private readonly up: number, private readonly down: number, private readonly kernel: SincKernel) {
    const taps = kernel.halfWidth * 2
    this.rowFloats = Math.ceil(taps / LANES) * LANES
    this.tableFloats = up * this.rowFloats
    this.windowFloats = Math.ceil(OUT_FLOATS * down / up) + this.rowFloats + LANES
    const bytes = (this.tableFloats + this.windowFloats + OUT_FLOATS) * FLOAT_BYTES
    this.memory.grow(Math.max(0, Math.ceil(bytes / PAGE_BYTES) - 1))
    this.floats = new Float32Array(this.memory.buffer)
    for (let row = 0; row < up; row++) this.floats.set(kernel.table.subarray(row * taps, (row + 1) * taps), row * this.rowFloats)
    const { exports } = new WebAssembly.Instance(new WebAssembly.Module(POLYPHASE_KERNEL), { polyphase: { memory: this.memory } })
    this.run = exports.convert as Convert
  }

  /** Fills `out` with the input at the other rate; what lies beyond the input counts as silence. */
  convert(input: Float32Array, out: Float32Array): void {
    const { up, down, tableFloats, windowFloats, floats } = this
    const outAt = tableFloats + windowFloats
    for (let done = 0; done < out.length; done += OUT_FLOATS) {
      const count = Math.min(OUT_FLOATS, out.length - done)
      const base = Math.floor(done * down / up)
      const phase = done * down % up
      layStretch(input, base - this.kernel.halfWidth + 1, windowFloats, floats, tableFloats)
      this.run(tableFloats * FLOAT_BYTES, outAt * FLOAT_BYTES, count, phase, up, down, 0, this.rowFloats * FLOAT_BYTES)
      out.set(floats.subarray(outAt, outAt + count), done)
    }
  }
}
