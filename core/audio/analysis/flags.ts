import { fromDb } from '../level'
import { sumOf } from '../sweep'

const SILENT_DB = -90
const CLIPPED_RUN = 2
const FULL_SCALE = 32_767 / 32_768 - 1e-6
const OFFSET_LEAST = 0.01
const OFFSET_BLOCKS = 25
const SAME_DB = -80
const OPPOSITE = -0.5

/** True when a sample of this height is one that a converter could not pass. */
export function isFullScale(peak: number): boolean {
  return peak >= FULL_SCALE
}

/** True when nothing in it rises above -90 dBFS. */
export function isSilent(peak: number): boolean {
  return peak < fromDb(SILENT_DB)
}

/** Number of runs of two or more samples at full scale: what a recorder or converter cut off. */
export function clippedRuns(channels: readonly Float32Array[]): number {
  let runs = 0
  for (const channel of channels) {
    let length = 0
    for (const value of channel) {
      length = value >= FULL_SCALE || value <= -FULL_SCALE ? length + 1 : 0
      if (length === CLIPPED_RUN) runs++
    }
  }
  return runs
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
  let product = 0
  let leftPower = 0
  let rightPower = 0
  let difference = 0
  for (let i = 0; i < left.length; i++) {
    const [l, r] = [left[i]!, right[i]!]
    product += l * r
    leftPower += l * l
    rightPower += r * r
    difference += (l - r) ** 2
  }
  const power = Math.sqrt(leftPower * rightPower)
  if (power === 0) return leftPower === rightPower ? 'same' : 'own'
  if (difference <= power * fromDb(SAME_DB) ** 2) return 'same'
  return product / power < OPPOSITE ? 'opposite' : 'own'
}
