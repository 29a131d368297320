import { layStretch } from '../lay'
import { FFT_KERNEL } from './fftKernel'

interface Kernel {
  readonly layEight: (input: number, apart: number, window: number, size: number, out: number) => void
  readonly layOne: (input: number, window: number, size: number, out: number) => void
  readonly transform: (from: number, other: number, size: number, twiddles: number) => number
  readonly powersOfEight: (transformed: number, size: number, out: number) => void
  readonly sumOfEight: (powers: number, lines: number, out: number) => void
  readonly bandsOfEight: (powers: number, edges: number, bands: number, out: number) => void
  readonly powersOfOne: (transformed: number, lines: number, twiddles: number, out: number) => void
}

/** Stretches that are transformed at once, and parts that one stretch is taken apart into. */
export const STRETCHES = 8
/** Bands that powers are summed up in at once. */
export const MOST_BANDS = 32
/** The smallest transform. */
export const SMALLEST_FFT = 16

const PAGE_BYTES = 65_536
const FLOAT_BYTES = 4
/** Values of a row of the turns that parts of one stretch are put together by: cosine and minus sine of each. */
const ROW = 2 * STRETCHES

let kernelModule: WebAssembly.Module | undefined

/**
 * Power spectra by fast Fourier transforms of one size, in WebAssembly with SIMD and single precision: what is 140 dB below
 * the strongest line is lost in rounding. Its memory is used again at every call.
 *
 * Sources: T. G. Stockham, "High-speed convolution and correlation" (1966), for transforms in order; Numerical Recipes, "FFT
 * of two real functions"; Cooley and Tukey (1965), for one stretch taken apart into eight.
 */
export class RealFft {
  private readonly kernel: Kernel
  private readonly floats: Float32Array
  /** Where things lie, in floats. */
  private readonly windowAt: number
  private readonly workAt: number
  private readonly otherAt: number
  private readonly twiddlesAt: number
  private readonly partTwiddlesAt: number
  private readonly joiningAt: number
  private readonly outAt: number
  private readonly edgesAt: number
  private readonly bandsAt: number

  /** @param size frames, a power of two, `SMALLEST_FFT` or more */
  constructor(readonly size: number) {
    if (size < SMALLEST_FFT || !Number.isInteger(Math.log2(size))) throw new RangeError(`A transform needs a power of two from ${SMALLEST_FFT} on, not ${size}.`)
    const parts = size / STRETCHES
    this.windowAt = STRETCHES * size
    this.workAt = this.windowAt + size
    this.otherAt = this.workAt + STRETCHES * size
    this.twiddlesAt = this.otherAt + STRETCHES * size
    this.partTwiddlesAt = this.twiddlesAt + 2 * size
    this.joiningAt = this.partTwiddlesAt + 2 * parts
    this.outAt = this.joiningAt + (parts / 2 + 1) * ROW
    // One value behind the powers is written to as well: see `powersOfOne`.
    this.edgesAt = this.outAt + STRETCHES * size / 2 + STRETCHES
    this.bandsAt = this.edgesAt + 2 * MOST_BANDS
    const memory = new WebAssembly.Memory({ initial: Math.ceil((this.bandsAt + STRETCHES * MOST_BANDS) * FLOAT_BYTES / PAGE_BYTES) })
    kernelModule ??= new WebAssembly.Module(FFT_KERNEL)
    this.kernel = new WebAssembly.Instance(kernelModule, { fft: { memory } }).exports as unknown as Kernel
    this.floats = new Float32Array(memory.buffer)
    this.layTwiddles(this.twiddlesAt, size)
    this.layTwiddles(this.partTwiddlesAt, parts)
    this.layJoining(parts)
  }

  /**
   * Power of each frequency from 0 to below the Nyquist frequency of up to eight windowed stretches of `input`; what lies
   * before or after it counts as silence.
   *
   * @param starts where each stretch begins
   * @param window `size` or fewer weights; a shorter one is followed by zeros
   * @returns `size / 2` rows of `STRETCHES` values; it holds until the next call
   */
  powers(input: Float32Array, starts: readonly number[], window: Float32Array): Float32Array {
    const { size, floats } = this
    if (starts.length > STRETCHES) throw new RangeError(`Up to ${STRETCHES} stretches are transformed at once, not ${starts.length}.`)
    starts.forEach((from, i) => layStretch(input, from, size, floats, i * size))
    floats.fill(0, starts.length * size, STRETCHES * size)
    return this.powersOfLaid(size, window)
  }

  /** Of eight stretches that lie so many samples apart. */
  private powersOfLaid(apart: number, window: Float32Array): Float32Array {
    const { size, kernel, windowAt, workAt, otherAt, twiddlesAt, outAt } = this
    this.layWindow(window)
    kernel.layEight(0, apart * FLOAT_BYTES, windowAt * FLOAT_BYTES, size, workAt * FLOAT_BYTES)
    const transformed = kernel.transform(workAt * FLOAT_BYTES, otherAt * FLOAT_BYTES, size, twiddlesAt * FLOAT_BYTES)
    kernel.powersOfEight(transformed, size, outAt * FLOAT_BYTES)
    return this.floats.subarray(outAt, outAt + STRETCHES * size / 2)
  }

  /** The same, all stretches together: `size / 2` values that hold until the next call. */
  powerOfAll(input: Float32Array, starts: readonly number[], window: Float32Array): Float32Array {
    const { size, kernel, floats, outAt, workAt } = this
    this.powers(input, starts, window)
    kernel.sumOfEight(outAt * FLOAT_BYTES, size / 2, workAt * FLOAT_BYTES)
    return floats.subarray(workAt, workAt + size / 2)
  }

  /**
   * Powers of eight stretches, each so many samples after the one before it, `size` at most, summed up in bands.
   *
   * @param edges of up to `MOST_BANDS` bands, the first line of each and the one behind its last, in turn
   * @returns a row of `STRETCHES` values for each band; it holds until the next call
   */
  bands(input: Float32Array, from: number, apart: number, window: Float32Array, edges: Int32Array): Float32Array {
    const { size, kernel, floats, outAt, edgesAt, bandsAt } = this
    if (apart > size) throw new RangeError(`Stretches lie at most their own length apart, ${size}, not ${apart}.`)
    if (edges.length > 2 * MOST_BANDS) throw new RangeError(`Powers are summed up in up to ${MOST_BANDS} bands, not ${edges.length / 2}.`)
    layStretch(input, from, size + (STRETCHES - 1) * apart, floats, 0)
    this.powersOfLaid(apart, window)
    new Int32Array(floats.buffer, edgesAt * FLOAT_BYTES, 2 * MOST_BANDS).set(edges)
    kernel.bandsOfEight(outAt * FLOAT_BYTES, edgesAt * FLOAT_BYTES, edges.length / 2, bandsAt * FLOAT_BYTES)
    return floats.subarray(bandsAt, bandsAt + edges.length / 2 * STRETCHES)
  }

  /** The same of one stretch: `size / 2` values that hold until the next call. */
  power(input: Float32Array, from: number, window: Float32Array): Float32Array {
    const { size, kernel, windowAt, workAt, otherAt, partTwiddlesAt, joiningAt, outAt } = this
    const parts = size / STRETCHES
    layStretch(input, from, size, this.floats, 0)
    this.layWindow(window)
    kernel.layOne(0, windowAt * FLOAT_BYTES, size, workAt * FLOAT_BYTES)
    const transformed = kernel.transform(workAt * FLOAT_BYTES, otherAt * FLOAT_BYTES, parts, partTwiddlesAt * FLOAT_BYTES)
    kernel.powersOfOne(transformed, parts, joiningAt * FLOAT_BYTES, outAt * FLOAT_BYTES)
    return this.floats.subarray(outAt, outAt + size / 2)
  }

  private layWindow(window: Float32Array): void {
    const { size, floats, windowAt } = this
    floats.set(window.length > size ? window.subarray(0, size) : window, windowAt)
    floats.fill(0, windowAt + Math.min(size, window.length), windowAt + size)
  }

  private layTwiddles(at: number, count: number): void {
    for (let i = 0; i < count; i++) {
      this.floats[at + 2 * i] = Math.cos(2 * Math.PI * i / count)
      this.floats[at + 2 * i + 1] = -Math.sin(2 * Math.PI * i / count)
    }
  }

  private layJoining(parts: number): void {
    for (let line = 0; line <= parts / 2; line++) {
      for (let part = 0; part < STRETCHES; part++) {
        const angle = 2 * Math.PI * line * part / this.size
        const at = this.joiningAt + line * ROW + (part >> 2) * STRETCHES + part % 4
        this.floats[at] = Math.cos(angle)
        this.floats[at + 4] = -Math.sin(angle)
      }
    }
  }
}

const ffts = new Map<number, RealFft>()

/** The transform of a size, made on first use. */
export function fftOf(size: number): RealFft {
  const known = ffts.get(size)
  if (known) return known
  const made = new RealFft(size)
  ffts.set(size, made)
  return made
}

const windows = new Map<number, Float32Array>()

/** A Hann window of so many frames, scaled to a mean of 1. */
export function hannWindow(frames: number): Float32Array {
  const known = windows.get(frames)
  if (known) return known
  const made = Float32Array.from({ length: frames }, (_, i) => 1 - Math.cos(2 * Math.PI * (i + 0.5) / frames))
  if (windows.size > 64) windows.clear()
  windows.set(frames, made)
  return made
}
