/**
 * A band-limited interpolation kernel: a sinc under a Kaiser window, tabulated at `phases` places between two
 * samples and read with linear interpolation between the places. Source: J. O. Smith, "Digital Audio
 * Resampling Home Page" (windowed-sinc interpolation); Kaiser window after Kaiser (1974).
 */
export interface SincKernel {
  /** Taps on each side of the wanted place, in input samples. */
  readonly halfWidth: number
  /** Places between two samples that it is tabulated at. */
  readonly phases: number
  /** `(phases + 1) * 2 * halfWidth` weights, one row of taps a phase. */
  readonly table: Float32Array
}

/**
 * Builds a kernel.
 *
 * @param zeroCrossings of the sinc on each side at cutoff 1: more is steeper
 * @param cutoff where it passes half, as a part of the input's Nyquist frequency, 0 to 1
 * @param beta of the Kaiser window: 9 holds the stop band near -90 dB, 12 near -118 dB
 * @param phases more make the reading between two places finer: 256 for about -95 dB, 1024 for about -118 dB
 */
export function sincKernel(zeroCrossings: number, cutoff: number, beta: number, phases: number): SincKernel {
  const halfWidth = Math.ceil(zeroCrossings / cutoff)
  const taps = halfWidth * 2
  const table = new Float32Array((phases + 1) * taps)
  const norm = besselI0(beta)
  for (let phase = 0; phase <= phases; phase++) {
    const row = phase * taps
    let sum = 0
    for (let tap = 0; tap < taps; tap++) {
      const x = tap - halfWidth + 1 - phase / phases
      const inside = 1 - (x / halfWidth) ** 2
      const value = inside <= 0 ? 0 : cutoff * sinc(x * cutoff) * besselI0(beta * Math.sqrt(inside)) / norm
      table[row + tap] = value
      sum += value
    }
    // Every phase passes a constant unchanged, so that silence and DC gain no ripple.
    for (let tap = 0; tap < taps; tap++) table[row + tap]! /= sum
  }
  return { halfWidth, phases, table }
}

/**
 * The value of `input` at the place `position` (in samples, may lie between two). Places before the first and
 * after the last sample count as silence.
 */
export function interpolate(input: Float32Array, position: number, kernel: SincKernel): number {
  const { halfWidth, phases, table } = kernel
  const taps = halfWidth * 2
  const base = Math.floor(position)
  const phase = (position - base) * phases
  // A place just below a sample can round up to the sample itself, beyond the last row.
  const step = Math.min(phases - 1, Math.floor(phase))
  const blend = phase - step
  const row = step * taps
  const first = base - halfWidth + 1
  const from = Math.max(0, -first)
  const to = Math.min(taps, input.length - first)
  let low = 0
  let high = 0
  for (let tap = from; tap < to; tap++) {
    const sample = input[first + tap]!
    low += sample * table[row + tap]!
    high += sample * table[row + taps + tap]!
  }
  return low + (high - low) * blend
}

function sinc(x: number): number {
  return x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x)
}

/** Modified Bessel function of the first kind, order 0, by its power series. */
function besselI0(x: number): number {
  let sum = 1
  let term = 1
  for (let k = 1; term > sum * 1e-12; k++) {
    term *= (x / (2 * k)) ** 2
    sum += term
  }
  return sum
}
