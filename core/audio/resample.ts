import { sincKernel, type SincKernel } from './sinc'

const ZERO_CROSSINGS = 48
const KAISER_BETA = 10
/** Middle of the filter's slope, as a part of the kept band. The slope ends where the band does. */
const CUTOFF = 0.93
/** Most places between two samples that a table is made for; ratios that need more are met within 1/8192 of a sample. */
const MOST_PHASES = 8192
const MOST_TABLES = 12

/** Both rates over their greatest common divisor. */
interface Ratio {
  readonly up: number
  readonly down: number
}

const tables = new Map<string, SincKernel>()

/**
 * Converts channels to another sample rate by polyphase windowed-sinc interpolation, without delay. A 1 kHz sine
 * comes through with an error below -100 dB, and what lies above the new Nyquist frequency is held down by 90 dB or
 * more. Source of the method: see `sinc.ts`.
 *
 * @param fromRate, toRate in Hz
 * @returns new arrays of `round(frames * toRate / fromRate)` frames; the given ones where the rates are equal
 */
export function resample(channels: readonly Float32Array[], fromRate: number, toRate: number): readonly Float32Array[] {
  if (fromRate === toRate) return channels
  const ratio = reduced(fromRate, toRate)
  const kernel = tableFor(ratio)
  return channels.map(input => convert(input, ratio, kernel))
}

function convert(input: Float32Array, { up, down }: Ratio, { halfWidth, phases, table }: SincKernel): Float32Array {
  const out = new Float32Array(Math.max(1, Math.round(input.length * up / down)))
  const taps = halfWidth * 2
  // Silence at both ends, so that no tap needs to ask whether it lies inside.
  const padded = new Float32Array(input.length + taps * 2)
  padded.set(input, taps)
  let base = 0
  let phase = 0
  for (let i = 0; i < out.length; i++) {
    const row = Math.round(phase / up * phases) * taps
    const first = base + taps - halfWidth + 1
    let sum = 0
    for (let tap = 0; tap < taps; tap++) sum += padded[first + tap]! * table[row + tap]!
    out[i] = sum
    phase += down
    while (phase >= up) {
      phase -= up
      base++
    }
  }
  return out
}

function tableFor(ratio: Ratio): SincKernel {
  const key = `${ratio.up}/${ratio.down}`
  const known = tables.get(key)
  if (known) return known
  const phases = ratio.up <= MOST_PHASES ? ratio.up : MOST_PHASES
  const made = sincKernel(ZERO_CROSSINGS, CUTOFF * Math.min(1, ratio.up / ratio.down), KAISER_BETA, phases)
  if (tables.size >= MOST_TABLES) tables.delete(tables.keys().next().value!)
  tables.set(key, made)
  return made
}

function reduced(fromRate: number, toRate: number): Ratio {
  const divisor = greatestCommonDivisor(Math.round(fromRate), Math.round(toRate))
  return { up: Math.round(toRate) / divisor, down: Math.round(fromRate) / divisor }
}

function greatestCommonDivisor(a: number, b: number): number {
  return b === 0 ? a : greatestCommonDivisor(b, a % b)
}
