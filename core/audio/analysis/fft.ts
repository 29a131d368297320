/** A fast Fourier transform of one size: tables are made once and its buffers are used again at every call. */
export class RealFft {
  private readonly cos: Float64Array
  private readonly sin: Float64Array
  private readonly reversed: Uint32Array
  private readonly re: Float64Array
  private readonly im: Float64Array

  /** @param size frames, a power of two */
  constructor(readonly size: number) {
    if (size < 2 || (size & (size - 1)) !== 0) throw new RangeError(`A transform needs a power of two, not ${size}.`)
    const bits = Math.log2(size)
    this.cos = Float64Array.from({ length: size / 2 }, (_, i) => Math.cos(2 * Math.PI * i / size))
    this.sin = Float64Array.from({ length: size / 2 }, (_, i) => -Math.sin(2 * Math.PI * i / size))
    this.reversed = Uint32Array.from({ length: size }, (_, i) => {
      let reversed = 0
      for (let bit = 0; bit < bits; bit++) reversed |= (i >> bit & 1) << (bits - 1 - bit)
      return reversed
    })
    this.re = new Float64Array(size)
    this.im = new Float64Array(size)
  }

  /**
   * Power of each frequency from 0 to below the Nyquist frequency, `size / 2` values, of two windowed stretches of
   * `input`; what lies before or after it counts as silence. Both go through one transform, as its real and its
   * imaginary part. Sources: Cooley and Tukey (1965), radix 2 in time; Numerical Recipes, "FFT of two real functions".
   *
   * @param window `size` or fewer weights; a shorter one is followed by zeros
   * @param first, second where the results go
   */
  powerOfTwo(input: Float32Array, firstFrom: number, secondFrom: number, window: Float64Array, first: Float64Array, second: Float64Array): void {
    const { re, im, size, reversed } = this
    re.fill(0)
    im.fill(0)
    const count = Math.min(size, window.length)
    const load = (into: Float64Array, from: number) => {
      const end = Math.min(count, input.length - from)
      for (let i = Math.max(0, -from); i < end; i++) into[reversed[i]!] = input[from + i]! * window[i]!
    }
    load(re, firstFrom)
    load(im, secondFrom)
    this.transform()
    for (let i = 0; i < size / 2; i++) {
      const j = i === 0 ? 0 : size - i
      const evenRe = (re[i]! + re[j]!) / 2
      const evenIm = (im[i]! - im[j]!) / 2
      const oddRe = (im[i]! + im[j]!) / 2
      const oddIm = (re[j]! - re[i]!) / 2
      first[i] = evenRe * evenRe + evenIm * evenIm
      second[i] = oddRe * oddRe + oddIm * oddIm
    }
  }

  private transform(): void {
    const { re, im, size, cos, sin } = this
    // The first stage turns by nothing: sums and differences of neighbours.
    for (let i = 0; i < size; i += 2) {
      const [x, y] = [re[i + 1]!, im[i + 1]!]
      re[i + 1] = re[i]! - x
      im[i + 1] = im[i]! - y
      re[i] = re[i]! + x
      im[i] = im[i]! + y
    }
    for (let half = 2; half < size; half *= 2) {
      const stride = size / (half * 2)
      for (let start = 0; start < size; start += half * 2) {
        for (let k = 0; k < half; k++) {
          const c = cos[k * stride]!
          const s = sin[k * stride]!
          const low = start + k
          const high = low + half
          const x = re[high]! * c - im[high]! * s
          const y = re[high]! * s + im[high]! * c
          re[high] = re[low]! - x
          im[high] = im[low]! - y
          re[low] = re[low]! + x
          im[low] = im[low]! + y
        }
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
