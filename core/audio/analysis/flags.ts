import { fromDb } from '../level'
import { energiesOfPair, sumOf } from '../sweep'
import type { Envelope } from './envelope'

const SILENT_DB = -90
const CLIPPED_RUN = 2
const CLIPPED_RUNS = 3
const FLAT_RUN = 3
const FLAT_WITHIN = 1e-4
const WOULD_RISE = 1.05
const FULL_SCALE = 32_767 / 32_768 - 1e-6
const OFFSET_LEAST = 0.01
const OFFSET_BLOCKS = 25
const SAME_DB = -80
/** Of channels that were dithered or rounded each by itself: a step of 16 bits, and not more than this of what is there. */
const ROUNDING = 1 / 32_768
const ROUNDED_DB = -40
const OPPOSITE = -0.5

/** True when a sample of this height is one that a converter could not pass. */
export function isFullScale(peak: number): boolean {
  return peak >= FULL_SCALE
}

/** True when nothing in it rises above -90 dBFS. */
export function isSilent(peak: number): boolean {
  return peak < fromDb(SILENT_DB)
}

/** What a recorder or converter cut off. */
export interface Clipping {
  /** Number of runs of two or more samples at full scale. */
  readonly runs: number
  /** One peak may touch full scale twice by chance; what was cut off does it again and again, or lies flat where it would have gone on. */
  readonly isClipped: boolean
}

/** Finds what was cut off at full scale. */
export function clippingOf(channels: readonly Float32Array[], { values, framesPerStep }: Envelope): Clipping {
  let runs = 0
  let isCut = false
  const ended = (channel: Float32Array, from: number, end: number) => {
    if (end - from >= CLIPPED_RUN) runs++
    if (end - from >= FLAT_RUN && !isCut) isCut = wouldHaveGoneOn(channel, from, end)
  }
  for (const channel of channels) {
    let length = 0
    for (let step = 0; step < values.length; step++) {
      const first = step * framesPerStep
      // In most steps nothing is at full scale: their first sample ends the run before.
      const end = isFullScale(values[step]!) ? Math.min(channel.length, first + framesPerStep) : first + 1
      for (let i = first; i < end; i++) {
        if (isFullScale(Math.abs(channel[i]!))) length++
        else if (length > 0) {
          ended(channel, i - length, i)
          length = 0
        }
      }
    }
    ended(channel, channel.length - length, channel.length)
  }
  return { runs, isClipped: isCut || runs >= CLIPPED_RUNS }
}

/**
 * True when a flat run, bridged by the curve that goes on as the sound came and went, would have risen clearly over what there is.
 * Source: the middle of a cubic Hermite curve (textbook).
 */
function wouldHaveGoneOn(channel: Float32Array, from: number, end: number): boolean {
  const top = Math.abs(channel[from]!)
  for (let i = from; i < end; i++) if (Math.abs(Math.abs(channel[i]!) - top) > FLAT_WITHIN) return false
  if (from < 2 || end + 2 > channel.length) return false
  const sign = Math.sign(channel[from]!)
  const [before, first, last, after] = [channel[from - 2]! * sign, channel[from - 1]! * sign, channel[end]! * sign, channel[end + 1]! * sign]
  const middle = (first + last) / 2 + (end - from + 1) * (first - before + last - after) / 8
  return middle > top * WOULD_RISE
}

/**
 * DC offset over full scale, of the channel that has the most; 0 when it is below 0.01. The median of the means of 25
 * stretches, so that a bass drum that swings long to one side is not taken for one.
 */
export function dcOffset(channels: readonly Float32Array[]): number {
  let most = 0
  for (const channel of channels) {
    const span = Math.floor(channel.length / OFFSET_BLOCKS)
    if (span < 1) continue
    const means = Array.from({ length: OFFSET_BLOCKS }, (_, block) => sumOf(channel, block * span, (block + 1) * span) / span)
    const median = means.sort((a, b) => a - b)[OFFSET_BLOCKS >> 1]!
    if (Math.abs(median) > Math.abs(most)) most = median
  }
  return Math.abs(most) < OFFSET_LEAST ? 0 : most
}

/** How two channels go together: the same (mono stored as stereo), against each other, or neither. */
export function channelsAre(channels: readonly Float32Array[]): 'same' | 'opposite' | 'own' {
  const [left, right] = channels
  if (!left || !right) return 'own'
  const energies = energiesOfPair(left, right)
  const difference = energies.left + energies.right - 2 * energies.product
  const power = Math.sqrt(energies.left * energies.right)
  if (power === 0) return energies.left === energies.right ? 'same' : 'own'
  const isRounding = difference <= left.length * ROUNDING ** 2 && difference <= power * fromDb(ROUNDED_DB) ** 2
  if (isRounding || difference <= power * fromDb(SAME_DB) ** 2) return 'same'
  return energies.product / power < OPPOSITE ? 'opposite' : 'own'
}
