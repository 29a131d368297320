import { monoOf } from './colour'
import { fftOf, hannWindow, STRETCHES } from './fft'

const SIZE = 4096
const HOP = 1024
const LONGEST_SECONDS = 3

/** Bands of an average spectrum, of equal width on a logarithmic scale. */
export const SPECTRUM_BANDS = 72
export const SPECTRUM_LOWEST_HZ = 30
export const SPECTRUM_HIGHEST_HZ = 18_000

/**
 * The mean power of a sound in bands of equal ratio, over its first three seconds, in decibels below its strongest band. Bands
 * above what the rate can hold, and those of silence, are -Infinity. Source: Welch's method (1967), with Hann windows.
 *
 * @param channels one array a channel
 */
export function averageSpectrum(channels: readonly Float32Array[], sampleRate: number): Float32Array {
  const mono = monoOf(channels)
  const power = new Float64Array(SIZE / 2)
  const end = Math.min(mono.length, Math.round(LONGEST_SECONDS * sampleRate))
  for (let from = -SIZE / 2; from < end; from += HOP * STRETCHES) {
    const starts = Array.from({ length: STRETCHES }, (_, i) => from + i * HOP).filter(start => start < end)
    const several = fftOf(SIZE).powerOfAll(mono, starts, hannWindow(SIZE))
    for (let bin = 0; bin < power.length; bin++) power[bin]! += several[bin]!
  }
  const bands = Float32Array.from({ length: SPECTRUM_BANDS }, (_, band) => {
    const [low, high] = [edge(band), edge(band + 1)].map(hz => hz * SIZE / sampleRate) as [number, number]
    if (high > power.length) return 0
    // Bands narrower than a bin take their part of it.
    let sum = 0
    for (let bin = Math.floor(low + 0.5); bin <= Math.floor(high + 0.5); bin++) {
      const share = Math.min(high, bin + 0.5) - Math.max(low, bin - 0.5)
      sum += Math.max(0, share) * (power[bin] ?? 0)
    }
    return sum
  })
  const strongest = bands.reduce((most, value) => Math.max(most, value), 0)
  return bands.map(value => strongest > 0 ? 10 * Math.log10(value / strongest) : Number.NEGATIVE_INFINITY)
}

/** The lower end of a band in Hz. */
export function edge(band: number): number {
  return SPECTRUM_LOWEST_HZ * (SPECTRUM_HIGHEST_HZ / SPECTRUM_LOWEST_HZ) ** (band / SPECTRUM_BANDS)
}
