import type { EmbeddedData } from '../../core/audio/decoded'
import { resample } from '../../core/audio/resample'
import { tpdfDither } from '../../core/audio/dither'
import { writeWave, type WaveDepth } from '../../core/audio/wave/write'
import type { Drum, Force } from '../synth/drums'
import { finish, Random, SYNTH_RATE } from '../synth/dsp'
import { writeAiff } from './aiff'

/** How a take is written to disk. */
export interface Medium {
  readonly container: 'wav' | 'aif'
  readonly depth: WaveDepth
  readonly rate: number
  readonly stereo: boolean
}

/** One file of a pack, made when it is asked for. */
export interface PackFile {
  readonly path: string
  readonly make: () => Uint8Array
}

export interface Take {
  readonly drum: Drum
  readonly seed: number
  readonly force: Force
  readonly peakDb: number
  readonly medium: Medium
  readonly embedded?: EmbeddedData
}

/** Synthesises a take: one channel, or two heard from a little apart, at the medium's rate. */
export function perform(take: Take): readonly Float32Array[] {
  const centre = take.drum(new Random(take.seed), take.force)
  const channels = take.medium.stereo ? spread(centre, take) : [centre]
  const peaks = channels.map(channel => finish(channel, take.peakDb))
  return resample(peaks, SYNTH_RATE, take.medium.rate)
}

/** Two ears: the same hit with a second one of other chance mixed in, later on one side. */
function spread(centre: Float32Array, take: Take): Float32Array[] {
  const other = take.drum(new Random(take.seed + 7919), take.force)
  return [0.35, -0.35].map((amount, side) => {
    const delay = side * 14
    return centre.map((value, i) => value + amount * (other[i - delay] ?? 0))
  })
}

/** The bytes of a take in its medium. */
export function render(take: Take): Uint8Array {
  return encode(perform(take), take)
}

export function encode(channels: readonly Float32Array[], take: Pick<Take, 'medium' | 'embedded' | 'seed'>): Uint8Array {
  const { container, depth, rate } = take.medium
  const dither = depth === 8 || depth === 16 ? tpdfDither(take.seed) : undefined
  if (container === 'aif' && depth !== 'float') return writeAiff(channels, rate, depth, dither)
  return writeWave(channels, rate, { depth, embedded: take.embedded, dither })
}
