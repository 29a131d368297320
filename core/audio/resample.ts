import { LRUCache } from 'lru-cache'
import { Polyphase } from './polyphase'
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

const converters = new LRUCache<string, Converter>({ max: MOST_TABLES })

type Converter = (input: Float32Array, out: Float32Array) => void

/**
 * Converts channels to another sample rate by polyphase windowed-sinc interpolation, without delay. A 1 kHz sine
 * comes through with an error below -100 dB, and what lies above the new Nyquist frequency is held down by 90 dB or
 * more. Source of the method: see `sinc.ts`.
 *
 * @param fromRate, toRate in Hz
 * @returns new arrays of `resampledFrames` each; the given ones where the rates are equal
 */
export function resample(channels: readonly Float32Array[], fromRate: number, toRate: number): readonly Float32Array[] {
  if (fromRate === toRate) return channels
  const ratio = reduced(fromRate, toRate)
  const convert = converterFor(ratio)
  return channels.map((input) => {
    const out = new Float32Array(lengthAt(input.length, ratio))
    convert(input, out)
    return out
  })
}

/** How many frames `resample` gives. */
export function resampledFrames(frames: number, fromRate: number, toRate: number): number {
  return fromRate === toRate ? frames : lengthAt(frames, reduced(fromRate, toRate))
}

/**
 * What a conversion keeps of each frequency, as a factor.
 *
 * @param hz frequencies below half of `fromRate`
 */
export function conversionGains(fromRate: number, toRate: number, hz: readonly number[]): Float64Array {
  const { halfWidth, table } = sincKernel(ZERO_CROSSINGS, CUTOFF * Math.min(1, toRate / fromRate), KAISER_BETA, 1)
  return Float64Array.from(hz, (frequency) => {
    let gain = 0
    for (let tap = 0; tap < halfWidth * 2; tap++) gain += table[tap]! * Math.cos(2 * Math.PI * frequency / fromRate * (tap - halfWidth + 1))
    return gain
  })
}

function lengthAt(frames: number, { up, down }: Ratio): number {
  return Math.max(1, Math.round(frames * up / down))
}

function converterFor(ratio: Ratio): Converter {
  const key = `${ratio.up}/${ratio.down}`
  const known = converters.get(key)
  if (known) return known
  const phases = Math.min(ratio.up, MOST_PHASES)
  const kernel = sincKernel(ZERO_CROSSINGS, CUTOFF * Math.min(1, ratio.up / ratio.down), KAISER_BETA, phases)
  const made = phases === ratio.up ? wholeRatio(ratio, kernel) : nearestPhase(ratio, kernel)
  converters.set(key, made)
  return made
}

function wholeRatio({ up, down }: Ratio, kernel: SincKernel): Converter {
  const polyphase = new Polyphase(up, down, kernel)
  return (input, out) => polyphase.convert(input, out)
}

function nearestPhase({ up, down }: Ratio, { halfWidth, phases, table }: SincKernel): Converter {
  const taps = halfWidth * 2
  return (input, out) => {
    // Silence at both ends, so that no tap needs to ask whether it lies inside.
    const padded = new Float32Array(input.length + taps * 2)
    padded.set(input, taps)
    for (let i = 0, base = 0, phase = 0; i < out.length; i++) {
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
  }
}

function reduced(fromRate: number, toRate: number): Ratio {
  const divisor = greatestCommonDivisor(Math.round(fromRate), Math.round(toRate))
  return { up: Math.round(toRate) / divisor, down: Math.round(fromRate) / divisor }
}

function greatestCommonDivisor(a: number, b: number): number {
  return b === 0 ? a : greatestCommonDivisor(b, a % b)
}
