/**
 * A source of TPDF dither: noise of 2 LSB peak to peak (the sum of two even ones of 1 LSB), in units of the last
 * bit, the same for the same seed. Source: Lipshitz, Wannamaker, Vanderkooy, "Quantization and Dither" (JAES 1992).
 */
export function tpdfDither(seed: number): () => number {
  const next = bits32(seed)
  // Two even numbers of 16 bits out of one of 32.
  return () => {
    const bits = next()
    return ((bits & 0xFFFF) - (bits >>> 16)) / 65_536
  }
}

/** Samples rounded to integers of so many bits, held at full scale; full scale stays at +-1. */
export function quantized(channel: Float32Array, bits: number, dither: () => number = () => 0): Float32Array {
  const scale = 2 ** (bits - 1)
  return channel.map(value => Math.max(-scale, Math.min(scale - 1, Math.floor(value * scale + dither() + 0.5))) / scale)
}

/** A small even random generator, 0 to below 1, the same run for the same seed. Source: T. Ettinger, mulberry32 (public domain). */
export function mulberry32(seed: number): () => number {
  const next = bits32(seed)
  return () => (next() >>> 0) / 2 ** 32
}

/** By how much the state of `mulberry32` grows at each number. */
export const STATE_STEP = 0x6D2B79F5

/** Its 32 bits, as a signed integer. */
function bits32(seed: number): () => number {
  let state = seed | 0
  return () => {
    state = (state + STATE_STEP) | 0
    let t = Math.imul(state ^ state >>> 15, state | 1)
    t ^= t + Math.imul(t ^ t >>> 7, t | 61)
    return t ^ t >>> 14
  }
}
