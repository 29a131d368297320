import type { SincKernel } from '../audio/sinc'
import { VOICE_KERNEL } from './voiceKernel'

type Interpolation = [input: number, out: number, count: number, position: number, step: number, table: number, rowBytes: number, halfWidth: number, phases: number]

interface Kernel {
  readonly interpolate: (...asked: Interpolation) => void
  readonly interpolateTwo: (...asked: [...Interpolation, inputApart: number, outApart: number]) => void
  readonly add: (input: number, out: number, count: number, gain: number) => void
}

interface Table {
  /** Where it lies in the memory, in bytes. */
  readonly at: number
  readonly rowBytes: number
}

/** The two sides of an output, of one length. */
export type StereoBlock = readonly [left: Float32Array, right: Float32Array]

/** Frames that voices work on at a time, and that a bus holds. */
export const MOST_FRAMES = 4_096

const PAGE_BYTES = 65_536
const FLOAT_BYTES = 4
/** Values that are read at a time: two vectors of four lanes. */
const LANES = 8
const WINDOW_FLOATS = 32_768
const WORK_AT = 2 * WINDOW_FLOATS
const FIRST_FREE = WORK_AT + 2 * MOST_FRAMES

/**
 * Where voices work, one after the other, in WebAssembly with SIMD: windows of the sound that is read, the tables of pitches, two
 * channels to work in, and the buses that they are mixed into. All addresses but those of the kernel count in floats.
 */
export class Workspace {
  private readonly memory = new WebAssembly.Memory({ initial: Math.ceil(FIRST_FREE * FLOAT_BYTES / PAGE_BYTES) })
  private readonly kernel: Kernel
  private readonly tables = new Map<SincKernel, Table>()
  private free = FIRST_FREE
  private floats: Float32Array
  private stereo: readonly Float32Array[] = []
  private mono: readonly Float32Array[] = []
  private busesAt = 0
  private busCount = 0
  private busFrames = 0
  private readonly sounding: boolean[] = []

  constructor() {
    const { exports } = new WebAssembly.Instance(new WebAssembly.Module(VOICE_KERNEL), { voice: { memory: this.memory } })
    this.kernel = exports as unknown as Kernel
    this.floats = this.look()
  }

  /** The one channel or two that voices work in. They hold until something is prepared. */
  channelsToWorkIn(count: number): readonly Float32Array[] {
    return count === 1 ? this.mono : this.stereo
  }

  /** Lays samples of one or two channels, from `at` on, into those to work in. They must be there. */
  copy(channels: readonly Float32Array[], at: number, count: number): void {
    for (let c = 0; c < channels.length; c++) this.stereo[c]!.set(channels[c]!.subarray(at, at + count))
  }

  /**
   * Reads one or two channels at `position`, `position + step`, and so on, in their samples, by the same band-limited
   * interpolation as `interpolate` of `audio/sinc`, into those to work in; up to `MOST_FRAMES` values. What lies before the first
   * and after the last sample counts as silence.
   */
  read(channels: readonly Float32Array[], count: number, position: number, step: number, kernel: SincKernel): void {
    const table = this.prepare(kernel)
    const margin = kernel.halfWidth + LANES
    const most = Math.max(1, Math.floor((WINDOW_FLOATS - 2 * margin - 2) / Math.max(1, Math.abs(step))))
    for (let done = 0; done < count; done += most) {
      const part = Math.min(most, count - done)
      const first = position + done * step
      const last = first + (part - 1) * step
      const origin = Math.floor(Math.min(first, last)) - margin
      const length = Math.floor(Math.max(first, last)) + margin - origin + 1
      for (let c = 0; c < channels.length; c++) this.lay(channels[c]!, c * WINDOW_FLOATS, origin, length)
      const asked: Interpolation = [0, (WORK_AT + done) * FLOAT_BYTES, part, first - origin, step, table.at, table.rowBytes, kernel.halfWidth, kernel.phases]
      if (channels.length === 1) this.kernel.interpolate(...asked)
      else this.kernel.interpolateTwo(...asked, WINDOW_FLOATS * FLOAT_BYTES, MOST_FRAMES * FLOAT_BYTES)
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
    const at = this.take((rows + 1) * rowFloats)
    for (let row = 0; row < rows; row++) this.floats.set(kernel.table.subarray(row * taps, (row + 1) * taps), at + row * rowFloats)
    const table = { at: at * FLOAT_BYTES, rowBytes: rowFloats * FLOAT_BYTES }
    this.tables.set(kernel, table)
    return table
  }

  /** Begins to mix anew, into so many buses of so many frames. */
  openBuses(count: number, frames: number): void {
    if (count > this.busCount) {
      this.busCount = Math.max(count, 2 * this.busCount)
      this.busesAt = this.take(this.busCount * 2 * MOST_FRAMES)
    }
    this.busFrames = frames
    this.sounding.length = 0
  }

  /** Adds the first `count` values to work on to a bus, from a frame on; one channel goes to both sides. */
  add(bus: number, from: number, count: number, channels: number, gainLeft: number, gainRight: number): void {
    const at = this.busesAt + bus * 2 * MOST_FRAMES
    if (!this.sounding[bus]) {
      this.floats.fill(0, at, at + this.busFrames)
      this.floats.fill(0, at + MOST_FRAMES, at + MOST_FRAMES + this.busFrames)
      this.sounding[bus] = true
    }
    this.kernel.add(WORK_AT * FLOAT_BYTES, (at + from) * FLOAT_BYTES, count, gainLeft)
    this.kernel.add((WORK_AT + (channels - 1) * MOST_FRAMES) * FLOAT_BYTES, (at + MOST_FRAMES + from) * FLOAT_BYTES, count, gainRight)
  }

  /** Puts a bus into a block, from a frame on. */
  takeBus(bus: number, [left, right]: StereoBlock, from: number): void {
    const count = this.busFrames
    if (!this.sounding[bus]) {
      left.fill(0, from, from + count)
      right.fill(0, from, from + count)
      return
    }
    const at = this.busesAt + bus * 2 * MOST_FRAMES
    left.set(this.floats.subarray(at, at + count), from)
    right.set(this.floats.subarray(at + MOST_FRAMES, at + MOST_FRAMES + count), from)
  }

  /** Makes the memory longer by so many floats. */
  private take(floats: number): number {
    const at = this.free
    this.free += floats
    const more = Math.ceil(this.free * FLOAT_BYTES / PAGE_BYTES) - this.memory.buffer.byteLength / PAGE_BYTES
    if (more > 0) {
      this.memory.grow(more)
      // What looked at the memory before looks at nothing now.
      this.floats = this.look()
    }
    return at
  }

  private look(): Float32Array {
    const floats = new Float32Array(this.memory.buffer)
    this.stereo = [floats.subarray(WORK_AT, WORK_AT + MOST_FRAMES), floats.subarray(WORK_AT + MOST_FRAMES, FIRST_FREE)]
    this.mono = this.stereo.slice(0, 1)
    return floats
  }

  /** Lays a stretch of a channel into a window. */
  private lay(channel: Float32Array, window: number, origin: number, length: number): void {
    const from = Math.max(0, Math.min(channel.length, origin))
    const to = Math.max(from, Math.min(channel.length, origin + length))
    const before = Math.max(0, Math.min(length, from - origin))
    if (before > 0) this.floats.fill(0, window, window + before)
    this.floats.set(channel.subarray(from, to), window + before)
    if (before + to - from < length) this.floats.fill(0, window + before + to - from, window + length)
  }
}

let shared: Workspace | undefined

/** The one that all voices of this thread use. */
export function workspace(): Workspace {
  shared ??= new Workspace()
  return shared
}
