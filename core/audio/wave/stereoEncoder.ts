import { STATE_STEP } from '../dither'
import { ENCODE_KERNEL } from './encodeKernel'

/** What rendered audio is written as. */
export type StereoDepth = 16 | 24 | 'float'

interface Kernel {
  readonly highest: (input: number, frames: number) => number
  readonly quantize: (input: number, frames: number, scale: number, full: number, state: number) => void
  readonly pack16: (left: number, right: number, out: number, frames: number) => void
  readonly pack24: (left: number, right: number, out: number, frames: number) => void
  readonly pack32: (left: number, right: number, out: number, frames: number) => void
}

const PAGE_BYTES = 65_536
const FLOAT_BYTES = 4
/** Frames that lie in its memory at a time: what the two channels and the result take stays in a processor's own cache. */
export const PIECE_FRAMES = 4_096
const PIECE_BYTES = PIECE_FRAMES * FLOAT_BYTES
const LANES = 4
const [LEFT_AT, RIGHT_AT, OUT_AT] = [0, PIECE_BYTES, 2 * PIECE_BYTES] as const

let kernel: { readonly run: Kernel, readonly memory: WebAssembly.Memory } | undefined

function loaded(): NonNullable<typeof kernel> {
  if (kernel) return kernel
  // Eight bytes more than the result: the last store of 24 bit passes its end.
  const memory = new WebAssembly.Memory({ initial: Math.ceil((4 * PIECE_BYTES + 8) / PAGE_BYTES) })
  const { exports } = new WebAssembly.Instance(new WebAssembly.Module(ENCODE_KERNEL), { encoder: { memory } })
  kernel = { run: exports as unknown as Kernel, memory }
  return kernel
}

/**
 * Brings two channels into the form that a WAVE file holds, as `encodeFrames` does, in WebAssembly with SIMD. Integers are dithered
 * (`dither.ts`) and held at full scale; digital silence of `PIECE_FRAMES` or of a whole block stays what it is.
 */
export class StereoEncoder {
  private peak = 0
  private state: number

  /** @param seed of the dither */
  constructor(readonly depth: StereoDepth, seed: number) {
    this.state = seed | 0
  }

  /** Highest absolute value of all that came in, full scale at 1, before any gain. */
  get highest(): number {
    return this.peak
  }

  /** Bytes of a frame. */
  get frameBytes(): number {
    return 2 * (this.depth === 'float' ? FLOAT_BYTES : this.depth / 8)
  }

  /**
   * Writes frames into `out` at a byte; it must have room for them.
   *
   * @param gain that integers are multiplied by; floats are left as they are
   */
  encode(left: Float32Array, right: Float32Array, gain: number, out: Uint8Array, at: number): void {
    const frames = left.length
    for (let done = 0; done < frames; done += PIECE_FRAMES) {
      const count = Math.min(PIECE_FRAMES, frames - done)
      // As `encodeFrames` takes them: numbers for all of the left channel, then for the right.
      const states = [this.state + Math.imul(done, STATE_STEP) | 0, this.state + Math.imul(frames + done, STATE_STEP) | 0] as const
      const from = at + done * this.frameBytes
      const isSilent = !this.piece(left.subarray(done, done + count), right.subarray(done, done + count), gain, states)
      if (isSilent) out.fill(0, from, from + count * this.frameBytes)
      else out.set(new Uint8Array(loaded().memory.buffer, OUT_AT, count * this.frameBytes), from)
    }
    this.state = this.state + Math.imul(2 * frames, STATE_STEP) | 0
  }

  /** @returns false for silence, of which nothing was made */
  private piece(left: Float32Array, right: Float32Array, gain: number, states: readonly [number, number]): boolean {
    const { run, memory } = loaded()
    const count = left.length
    const floats = new Float32Array(memory.buffer)
    floats.set(left, LEFT_AT / FLOAT_BYTES)
    floats.set(right, RIGHT_AT / FLOAT_BYTES)
    const whole = Math.ceil(count / LANES) * LANES
    floats.fill(0, LEFT_AT / FLOAT_BYTES + count, LEFT_AT / FLOAT_BYTES + whole)
    floats.fill(0, RIGHT_AT / FLOAT_BYTES + count, RIGHT_AT / FLOAT_BYTES + whole)
    const highest = Math.max(run.highest(LEFT_AT, whole), run.highest(RIGHT_AT, whole))
    if (highest === 0) return false
    this.peak = Math.max(this.peak, highest)
    if (this.depth === 'float') {
      run.pack32(LEFT_AT, RIGHT_AT, OUT_AT, whole)
      return true
    }
    const full = 2 ** (this.depth - 1)
    run.quantize(LEFT_AT, whole, gain * full, full, states[0])
    run.quantize(RIGHT_AT, whole, gain * full, full, states[1])
    if (this.depth === 16) run.pack16(LEFT_AT, RIGHT_AT, OUT_AT, whole)
    else run.pack24(LEFT_AT, RIGHT_AT, OUT_AT, whole)
    return true
  }
}
