import type { SincKernel } from '../audio/sinc'
import { INTERPOLATE_KERNEL } from './interpolateKernel'

type Interpolate = (input: number, out: number, count: number, position: number, step: number, table: number, rowBytes: number, halfWidth: number, phases: number) => void

interface Table {
  /** Where it lies in the memory, in bytes. */
  readonly at: number
  readonly rowBytes: number
}

const PAGE_BYTES = 65_536
const FLOAT_BYTES = 4
/** Values that are read at a time: two vectors of four lanes. */
const LANES = 8
const WINDOW_FLOATS = 32_768
const OUT_FLOATS = 4_096
const OUT_AT = WINDOW_FLOATS * FLOAT_BYTES
const FIRST_TABLE_AT = OUT_AT + OUT_FLOATS * FLOAT_BYTES

/**
 * Reads channels at any speed by the same band-limited interpolation as `interpolate` of `audio/sinc`, in WebAssembly with
 * SIMD: the part of a channel that a block needs is laid into its memory, beside the tables of the kernels.
 */
export class PitchReader {
  private readonly memory = new WebAssembly.Memory({ initial: Math.ceil(FIRST_TABLE_AT / PAGE_BYTES) })
  private readonly run: Interpolate
  private readonly tables = new Map<SincKernel, Table>()
  private nextTable = FIRST_TABLE_AT
  private floats: Float32Array

  constructor() {
    const { exports } = new WebAssembly.Instance(new WebAssembly.Module(INTERPOLATE_KERNEL), { pitch: { memory: this.memory } })
    this.run = exports.interpolate as Interpolate
    this.floats = new Float32Array(this.memory.buffer)
  }

  /**
   * Fills the first `count` values of `out` with the channel at `position`, `position + step`, and so on, in its samples.
   * What lies before its first and after its last sample counts as silence.
   */
  read(channel: Float32Array, out: Float32Array, count: number, position: number, step: number, kernel: SincKernel): void {
    const table = this.prepare(kernel)
    const margin = kernel.halfWidth + LANES
    const most = Math.max(1, Math.min(OUT_FLOATS, Math.floor((WINDOW_FLOATS - 2 * margin - 2) / Math.max(1, Math.abs(step)))))
    for (let done = 0; done < count; done += most) {
      const part = Math.min(most, count - done)
      const first = position + done * step
      const last = first + (part - 1) * step
      const origin = Math.floor(Math.min(first, last)) - margin
      this.lay(channel, origin, Math.floor(Math.max(first, last)) + margin - origin + 1)
      this.run(0, OUT_AT, part, first - origin, step, table.at, table.rowBytes, kernel.halfWidth, kernel.phases)
      const from = OUT_AT / FLOAT_BYTES
      out.set(this.floats.subarray(from, from + part), done)
    }
  }

  /** Lays a kernel's table into the memory, each row filled up to whole lanes. */
  prepare(kernel: SincKernel): Table {
    const known = this.tables.get(kernel)
    if (known) return known
    const taps = kernel.halfWidth * 2
    const rowFloats = Math.ceil(taps / LANES) * LANES
    const rows = kernel.phases + 1
    // One row more is read, at no weight, where a place falls on the last.
    const bytes = (rows + 1) * rowFloats * FLOAT_BYTES
    const table: Table = { at: this.nextTable, rowBytes: rowFloats * FLOAT_BYTES }
    this.nextTable += bytes
    const more = Math.ceil(this.nextTable / PAGE_BYTES) - this.memory.buffer.byteLength / PAGE_BYTES
    if (more > 0) this.memory.grow(more)
    this.floats = new Float32Array(this.memory.buffer)
    for (let row = 0; row < rows; row++) this.floats.set(kernel.table.subarray(row * taps, (row + 1) * taps), table.at / FLOAT_BYTES + row * rowFloats)
    this.tables.set(kernel, table)
    return table
  }

  /** Lays a stretch of a channel at the start of the memory. */
  private lay(channel: Float32Array, origin: number, length: number): void {
    const from = Math.max(0, Math.min(channel.length, origin))
    const to = Math.max(from, Math.min(channel.length, origin + length))
    const before = Math.max(0, Math.min(length, from - origin))
    this.floats.fill(0, 0, before)
    this.floats.set(channel.subarray(from, to), before)
    this.floats.fill(0, before + to - from, length)
  }
}
