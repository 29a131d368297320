/** A sine at full scale times `level`. */
export function sine(hz: number, sampleRate: number, frames: number, level = 1): Float32Array {
  return Float32Array.from({ length: frames }, (_, i) => level * Math.sin(2 * Math.PI * hz * i / sampleRate))
}

export function peakOf(channel: Float32Array): number {
  return channel.reduce((peak, value) => Math.max(peak, Math.abs(value)), 0)
}

export function rmsOf(channel: Float32Array): number {
  return Math.sqrt(channel.reduce((sum, value) => sum + value * value, 0) / channel.length)
}

export interface SpectrumBin {
  readonly hz: number
  readonly power: number
}

/**
 * Power of each frequency in 16,384 frames from the start, Hann window, by a plain radix-2 transform: the tests' own,
 * so that they do not measure with what they test.
 */
export function spectrumOf(channel: Float32Array, sampleRate: number): SpectrumBin[] {
  const size = 16_384
  const re = Float64Array.from({ length: size }, (_, i) => (channel[i] ?? 0) * (0.5 - 0.5 * Math.cos(2 * Math.PI * i / size)))
  const im = new Float64Array(size)
  for (let i = 1, j = 0; i < size; i++) {
    let bit = size >> 1
    for (; j & bit; bit >>= 1) j ^= bit
    j ^= bit
    if (i < j) [re[i], re[j]] = [re[j]!, re[i]!]
  }
  for (let half = 1; half < size; half *= 2) {
    for (let k = 0; k < half; k++) {
      const cos = Math.cos(Math.PI * k / half)
      const sin = -Math.sin(Math.PI * k / half)
      for (let i = k; i < size; i += 2 * half) {
        const x = re[i + half]! * cos - im[i + half]! * sin
        const y = re[i + half]! * sin + im[i + half]! * cos
        re[i + half] = re[i]! - x
        im[i + half] = im[i]! - y
        re[i]! += x
        im[i]! += y
      }
    }
  }
  return Array.from({ length: size / 2 }, (_, i) => ({ hz: i * sampleRate / size, power: re[i]! ** 2 + im[i]! ** 2 }))
}

/** Amplitude of one frequency in a channel, by a single bin of the Fourier transform over whole periods. */
export function magnitudeAt(channel: Float32Array, hz: number, sampleRate: number): number {
  let [re, im] = [0, 0]
  channel.forEach((value, i) => {
    re += value * Math.cos(2 * Math.PI * hz * i / sampleRate)
    im += value * Math.sin(2 * Math.PI * hz * i / sampleRate)
  })
  return 2 * Math.hypot(re, im) / channel.length
}

/** White noise, full scale at +-0.5, the same for the same seed. */
export function noise(frames: number, seed: number): Float32Array {
  let state = seed * 2_654_435_761 >>> 0 || 1
  return Float32Array.from({ length: frames }, () => {
    state ^= state << 13
    state ^= state >>> 17
    state ^= state << 5
    return (state >>> 0) / 2 ** 32 - 0.5
  })
}
