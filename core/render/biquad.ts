import type { Filter } from '../kit/document'

/** Peak height of a filter of the second order at Q = 1/sqrt 2, where it has none: 3.01 dB below its pass band. */
const FLAT_DB = 20 * Math.log10(Math.SQRT2)

/**
 * A filter of the second order for one channel. Source: R. Bristow-Johnson, "Cookbook formulae for audio EQ biquad
 * filter coefficients": LPF, HPF, and BPF of constant 0 dB peak gain; run in transposed direct form II.
 */
export class Biquad {
  private readonly b0: number
  private readonly b1: number
  private readonly b2: number
  private readonly a1: number
  private readonly a2: number
  private z1 = 0
  private z2 = 0

  /** The cutoff is held below 0.49 of the sample rate. */
  constructor({ type, cutoffHz, resonanceDb }: Filter, sampleRate: number) {
    const w = 2 * Math.PI * Math.min(cutoffHz, 0.49 * sampleRate) / sampleRate
    const q = 10 ** ((resonanceDb - FLAT_DB) / 20)
    const cos = Math.cos(w)
    const alpha = Math.sin(w) / (2 * q)
    const a0 = 1 + alpha
    const [b0, b1, b2] = numerator(type, cos, alpha)
    this.b0 = b0 / a0
    this.b1 = b1 / a0
    this.b2 = b2 / a0
    this.a1 = -2 * cos / a0
    this.a2 = (1 - alpha) / a0
  }

  /** Filters the first `count` samples in place. */
  run(samples: Float32Array, count: number): void {
    const { b0, b1, b2, a1, a2 } = this
    let { z1, z2 } = this
    for (let i = 0; i < count; i++) {
      const x = samples[i]!
      const y = b0 * x + z1
      z1 = b1 * x - a1 * y + z2
      z2 = b2 * x - a2 * y
      samples[i] = y
    }
    // Numbers too small to be heard slow the sum down on many processors.
    this.z1 = Math.abs(z1) < 1e-20 ? 0 : z1
    this.z2 = Math.abs(z2) < 1e-20 ? 0 : z2
  }
}

function numerator(type: Filter['type'], cos: number, alpha: number): [number, number, number] {
  switch (type) {
    case 'low-pass':
      return [(1 - cos) / 2, 1 - cos, (1 - cos) / 2]
    case 'high-pass':
      return [(1 + cos) / 2, -(1 + cos), (1 + cos) / 2]
    case 'band-pass':
      return [alpha, 0, -alpha]
  }
}
