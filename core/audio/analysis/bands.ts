import { fftOf, hannWindow } from './fft'

/** Number of bands, each a little wider than a third of an octave, from 60 Hz to 15 kHz. */
export const BANDS = 20

/** The power of a sound in bands over time: the ground of its hits and of its features. */
export interface BandPowers {
  /** Rows of `BANDS` values, one row a frame. */
  readonly values: Float32Array
  readonly frames: number
  /** Sample at which the first frame's window begins; may lie before the sound. */
  readonly fromFrame: number
  /** Samples from one frame to the next: half a window. */
  readonly hop: number
  readonly sampleRate: number
  /** The highest value of all. */
  readonly loudest: number
}

const WINDOW_SECONDS = 0.0116
const LOWEST_HZ = 60
const HIGHEST_HZ = 15_000

/** Measures the power in bands, from one window before `startSeconds` to `endSeconds`. */
export function bandPowersOf(mono: Float32Array, sampleRate: number, startSeconds: number, endSeconds: number): BandPowers {
  const size = 2 ** Math.max(6, Math.round(Math.log2(WINDOW_SECONDS * sampleRate)))
  const hop = size / 2
  const fromFrame = Math.max(0, Math.round(startSeconds * sampleRate) - size)
  const frames = Math.max(0, Math.floor((endSeconds * sampleRate - fromFrame) / hop))
  const powers = [new Float64Array(size / 2), new Float64Array(size / 2)] as const
  const window = hannWindow(size)
  const fft = fftOf(size)
  const edges = Array.from({ length: BANDS + 1 }, (_, band) => {
    const hz = LOWEST_HZ * (HIGHEST_HZ / LOWEST_HZ) ** (band / BANDS)
    return Math.min(size / 2, Math.max(band, Math.round(hz * size / sampleRate)))
  })
  const values = new Float32Array(frames * BANDS)
  let loudest = 0
  for (let frame = 0; frame < frames; frame++) {
    const power = powers[frame % 2]!
    if (frame % 2 === 0) fft.powerOfTwo(mono, fromFrame + frame * hop, fromFrame + (frame + 1) * hop, window, ...powers)
    for (let band = 0; band < BANDS; band++) {
      let sum = 0
      const end = Math.min(power.length, Math.max(edges[band]! + 1, edges[band + 1]!))
      for (let bin = edges[band]!; bin < end; bin++) sum += power[bin]!
      values[frame * BANDS + band] = sum
      if (sum > loudest) loudest = sum
    }
  }
  return { values, frames, fromFrame, hop, sampleRate, loudest }
}
