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
    load(pairs, 0, input, firstFrom, window, count)
    load(pairs, 1, input, secondFrom, window, count)
    for (let i = 2 * count; i < 2 * size; i++) pairs[i] = 0
    this.fft.transform(output, pairs)
    for (let i = 0; i < size / 2; i++) {
      const j = i === 0 ? 0 : size - i
      const re = output[2 * i]!
      const im = output[2 * i + 1]!
      const otherRe = output[2 * j]!
      const otherIm = output[2 * j + 1]!
      const evenRe = (re + otherRe) / 2
      const evenIm = (im - otherIm) / 2
      const oddRe = (im + otherIm) / 2
      const oddIm = (otherRe - re) / 2
      first[i] = evenRe * evenRe + evenIm * evenIm
      second[i] = oddRe * oddRe + oddIm * oddIm
    }
  }
}

/** Every second place of the pairs, from the one given on, becomes a windowed stretch; zeros where there is no input. */
function load(pairs: Float64Array, place: number, input: Float32Array, from: number, window: Float64Array, count: number): void {
  const first = Math.min(count, Math.max(0, -from))
  const end = Math.max(first, Math.min(count, input.length - from))
  for (let i = 0; i < first; i++) pairs[2 * i + place] = 0
  for (let i = first; i < end; i++) pairs[2 * i + place] = input[from + i]! * window[i]!
  for (let i = end; i < count; i++) pairs[2 * i + place] = 0
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
