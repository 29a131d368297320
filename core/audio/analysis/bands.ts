import { fftOf, hannWindow, STRETCHES } from './fft'
import type { Heard } from './heard'

/** Number of bands, each a little wider than a third of an octave, from 60 Hz to 15 kHz. */
export const BANDS = 20

/** The power of a sound in bands over time: the ground of its hits and of its features. */
export interface BandPowers {
  /** Rows of `BANDS` values, one row a frame. */
  readonly values: Float32Array
  readonly frames: number
  /** Sample of the recording, at this rate, at which the first frame's window begins; may lie before the sound. */
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
export function bandPowersOf({ mono, sampleRate, fromSeconds }: Pick<Heard, 'mono' | 'sampleRate' | 'fromSeconds'>, startSeconds: number, endSeconds: number): BandPowers {
  const size = 2 ** Math.max(6, Math.round(Math.log2(WINDOW_SECONDS * sampleRate)))
  const hop = size / 2
  const first = Math.max(0, Math.round((startSeconds - fromSeconds) * sampleRate) - size)
  const frames = Math.max(0, Math.floor(((endSeconds - fromSeconds) * sampleRate - first) / hop))
  const window = hannWindow(size)
  const fft = fftOf(size)
  const edges = bandEdges(size, sampleRate)
  const values = new Float32Array(frames * BANDS)
  let loudest = 0
  for (let frame = 0; frame < frames; frame += STRETCHES) {
    const count = Math.min(STRETCHES, frames - frame)
    const bands = fft.bands(mono, first + frame * hop, hop, window, edges)
    for (let band = 0; band < BANDS; band++) {
      for (let i = 0; i < count; i++) {
        const power = bands[band * STRETCHES + i]!
        values[(frame + i) * BANDS + band] = power
        if (power > loudest) loudest = power
      }
    }
  }
  return { values, frames, fromFrame: first + fromSeconds * sampleRate, hop, sampleRate, loudest }
}

/** First line of each band, and the one behind its last; none is without a line. */
function bandEdges(size: number, sampleRate: number): Int32Array {
  const edge = (band: number) => {
    const hz = LOWEST_HZ * (HIGHEST_HZ / LOWEST_HZ) ** (band / BANDS)
    return Math.min(size / 2, Math.max(band, Math.round(hz * size / sampleRate)))
  }
  return Int32Array.from({ length: 2 * BANDS }, (_, i) => {
    const band = i >> 1
    return i % 2 === 0 ? edge(band) : Math.min(size / 2, Math.max(edge(band) + 1, edge(band + 1)))
  })
}
