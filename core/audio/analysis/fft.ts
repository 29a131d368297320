import FFT from 'fft.js'

/** Power spectra by a fast Fourier transform of one size; its buffers are used again at every call. */
export class RealFft {
  private readonly fft: FFT
  /** Real and imaginary parts in turn. */
  private readonly input: number[]
  private readonly output: number[]

  /** @param size frames, a power of two, 4 or more */
  constructor(readonly size: number) {
    if (size < 4 || (size & (size - 1)) !== 0) throw new RangeError(`A transform needs a power of two, not ${size}.`)
    this.fft = new FFT(size)
    this.input = this.fft.createComplexArray()
    this.output = this.fft.createComplexArray()
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
    for (let i = 0; i < count; i++) {
      const weight = window[i]!
      const [one, two] = [firstFrom + i, secondFrom + i]
      pairs[2 * i] = one >= 0 && one < input.length ? input[one]! * weight : 0
      pairs[2 * i + 1] = two >= 0 && two < input.length ? input[two]! * weight : 0
    }
    for (let i = 2 * count; i < 2 * size; i++) pairs[i] = 0
    this.fft.transform(output, pairs)
    for (let i = 0; i < size / 2; i++) {
      const j = i === 0 ? 0 : size - i
      const [re, im, otherRe, otherIm] = [output[2 * i]!, output[2 * i + 1]!, output[2 * j]!, output[2 * j + 1]!]
      const evenRe = (re + otherRe) / 2
      const evenIm = (im - otherIm) / 2
      const oddRe = (im + otherIm) / 2
      const oddIm = (otherRe - re) / 2
      first[i] = evenRe * evenRe + evenIm * evenIm
      second[i] = oddRe * oddRe + oddIm * oddIm
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
