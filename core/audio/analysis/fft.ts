import FFT from 'fft.js'

/** Power spectra by a fast Fourier transform of one size; its buffers are used again at every call. */
export class RealFft {
  private readonly fft: FFT
  /** Real and imaginary parts in turn. */
  private readonly input: Float64Array
  private readonly output: Float64Array

  /** @param size frames, a power of two, 4 or more */
  constructor(readonly size: number) {
    if (size < 4 || (size & (size - 1)) !== 0) throw new RangeError(`A transform needs a power of two, not ${size}.`)
    this.fft = new FFT(size)
    this.input = new Float64Array(2 * size)
    this.output = new Float64Array(2 * size)
  }

  /**
   * Power of each frequency from 0 to below the Nyquist frequency, `size / 2` values, of two windowed stretches of
   * `input`; what lies before or after it counts as silence. Both go through one transform, as its real and its
   * imaginary part. Transform: package `fft.js` (radix 4); Numerical Recipes, "FFT of two real functions".
   *
   * @param window `size` or fewer weights; a shorter one is followed by zeros
   * @param first, second where the results go
   */
  powerOfTwo(input: Float32Array, firstFrom: number, secondFrom: number, window: Float64Array, first: Float64Array, second: Float64Array): void {
    const { size, input: pairs, output } = this
    const count = Math.min(size, window.length)
    const last = Math.max(firstFrom, secondFrom) + count
    if (firstFrom >= 0 && secondFrom >= 0 && last <= input.length) {
      for (let i = 0; i < count; i++) {
        const weight = window[i]!
        pairs[2 * i] = input[firstFrom + i]! * weight
        pairs[2 * i + 1] = input[secondFrom + i]! * weight
      }
    }
    else {
      for (let i = 0; i < count; i++) {
        pairs[2 * i] = (input[firstFrom + i] ?? 0) * window[i]!
        pairs[2 * i + 1] = (input[secondFrom + i] ?? 0) * window[i]!
      }
    }
    pairs.fill(0, 2 * count)
    this.fft.transform(output, pairs)
    first[0] = output[0]! ** 2
    second[0] = output[1]! ** 2
    for (let i = 2, j = 2 * size - 2; i < size; i += 2, j -= 2) {
      const evenRe = output[i]! + output[j]!
      const evenIm = output[i + 1]! - output[j + 1]!
      const oddRe = output[i + 1]! + output[j + 1]!
      const oddIm = output[j]! - output[i]!
      first[i >> 1] = (evenRe * evenRe + evenIm * evenIm) / 4
      second[i >> 1] = (oddRe * oddRe + oddIm * oddIm) / 4
    }
  }

  /** The same of one stretch: see `powerOfTwo`. */
  power(input: Float32Array, from: number, window: Float64Array, power: Float64Array): void {
    const { size, input: values, output } = this
    const count = Math.min(size, window.length)
    for (let i = 0; i < count; i++) values[i] = (input[from + i] ?? 0) * window[i]!
    values.fill(0, count)
    this.fft.realTransform(output, values)
    for (let i = 0; i < size / 2; i++) power[i] = output[2 * i]! ** 2 + output[2 * i + 1]! ** 2
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

const windows = new Map<number, Float64Array>()

/** A Hann window of so many frames, scaled to a mean of 1. */
export function hannWindow(frames: number): Float64Array {
  const known = windows.get(frames)
  if (known) return known
  const made = Float64Array.from({ length: frames }, (_, i) => 1 - Math.cos(2 * Math.PI * (i + 0.5) / frames))
  if (windows.size > 64) windows.clear()
  windows.set(frames, made)
  return made
}
