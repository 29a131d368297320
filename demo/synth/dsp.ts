import { mulberry32 } from '../../core/audio/dither'

/** Rate that everything is synthesised at before it is converted, in Hz. */
export const SYNTH_RATE = 48_000

/** Random numbers of one sound: the same for the same seed. */
export class Random {
  private readonly next: () => number

  constructor(seed: number) {
    this.next = mulberry32(seed)
  }

  /** Even, from `low` to `high`. */
  between(low: number, high: number): number {
    return low + (high - low) * this.next()
  }

  /** White noise, -1 to 1. */
  noise(): number {
    return this.next() * 2 - 1
  }

  pick<T>(items: readonly T[]): T {
    return items[Math.floor(this.next() * items.length)]!
  }
}

export function silence(seconds: number): Float32Array {
  return new Float32Array(Math.max(1, Math.round(seconds * SYNTH_RATE)))
}

/** Fills a new buffer from a function of time in seconds. */
export function fill(seconds: number, value: (t: number) => number): Float32Array {
  const out = silence(seconds)
  for (let i = 0; i < out.length; i++) out[i] = value(i / SYNTH_RATE)
  return out
}

/** An exponential decay that has fallen by 60 dB after `t60` seconds. */
export function decay(t: number, t60: number): number {
  return Math.exp(-6.908 * t / t60)
}

/** Adds `from` to `into`, scaled, beginning at `atSeconds`. */
export function mix(into: Float32Array, from: Float32Array, gain = 1, atSeconds = 0): Float32Array {
  const start = Math.round(atSeconds * SYNTH_RATE)
  const end = Math.min(into.length, start + from.length)
  for (let i = start; i < end; i++) into[i]! += from[i - start]! * gain
  return into
}

/** A vibrating mode: frequency in Hz, level, and the time to fall by 60 dB. */
export interface Mode {
  readonly hz: number
  readonly level: number
  readonly t60: number
}

/** Adds decaying sines, each by a two-multiply resonator. */
export function addModes(into: Float32Array, modes: readonly Mode[], gain = 1): Float32Array {
  for (const { hz, level, t60 } of modes) {
    if (hz >= SYNTH_RATE / 2.1) continue
    const radius = Math.exp(-6.908 / (t60 * SYNTH_RATE))
    const turn = 2 * Math.PI * hz / SYNTH_RATE
    const a = 2 * radius * Math.cos(turn)
    const b = radius * radius
    let y1 = 0
    let y2 = -Math.sin(turn) / radius * level * gain
    for (let i = 0; i < into.length; i++) {
      const y = a * y1 - b * y2
      into[i]! += y
      y2 = y1
      y1 = y
    }
  }
  return into
}

type FilterType = 'low' | 'high' | 'band'

/** Filters in place. Source: R. Bristow-Johnson, "Cookbook formulae for audio EQ biquad filter coefficients". */
export function filter(buffer: Float32Array, type: FilterType, hz: number, q = 0.707): Float32Array {
  const w = 2 * Math.PI * Math.min(hz, SYNTH_RATE * 0.49) / SYNTH_RATE
  const alpha = Math.sin(w) / (2 * q)
  const cos = Math.cos(w)
  const [b0, b1, b2] = type === 'low'
    ? [(1 - cos) / 2, 1 - cos, (1 - cos) / 2]
    : type === 'high' ? [(1 + cos) / 2, -(1 + cos), (1 + cos) / 2] : [alpha, 0, -alpha]
  const a0 = 1 + alpha
  const a1 = -2 * cos
  const a2 = 1 - alpha
  let x1 = 0
  let x2 = 0
  let y1 = 0
  let y2 = 0
  for (let i = 0; i < buffer.length; i++) {
    const x = buffer[i]!
    const y = (b0 * x + b1 * x1 + b2 * x2 - a1 * y1 - a2 * y2) / a0
    x2 = x1
    x1 = x
    y2 = y1
    y1 = y
    buffer[i] = y
  }
  return buffer
}

/** Noise with a decay, filtered. */
export function noiseBurst(random: Random, seconds: number, t60: number, type: FilterType, hz: number, q = 0.707): Float32Array {
  return filter(fill(seconds, t => random.noise() * decay(t, t60)), type, hz, q)
}

export function drive(buffer: Float32Array, amount: number): Float32Array {
  for (let i = 0; i < buffer.length; i++) buffer[i] = Math.tanh(buffer[i]! * amount)
  return buffer
}

/** Brings the peak to a level, and the last few milliseconds to silence. */
export function finish(buffer: Float32Array, peakDb: number): Float32Array {
  let peak = 0
  for (const value of buffer) peak = Math.max(peak, Math.abs(value))
  const gain = peak > 0 ? 10 ** (peakDb / 20) / peak : 0
  const fade = Math.min(buffer.length, Math.round(0.008 * SYNTH_RATE))
  for (let i = 0; i < buffer.length; i++) {
    const left = buffer.length - i
    buffer[i] = buffer[i]! * gain * (left < fade ? left / fade : 1)
  }
  return buffer
}
