import type { Kit } from './document'
import { mapPads } from './edits'

/** What was measured of one pad as it plays. */
export interface PadLevel {
  /** Highest sample over full scale. */
  readonly peakDb: number
  readonly hitLufs: number
}

/** A gain within what a pad, a layer or a kit can have, in dB. */
export function clampGain(gainDb: number): number {
  return Math.max(-96, Math.min(24, gainDb))
}

/** The kit's own gain, on top of what each pad has. */
export function setKitGain(kit: Kit, gainDb: number): Kit {
  const held = clampGain(gainDb)
  return held === kit.gainDb ? kit : { ...kit, gainDb: held }
}

/** Brings pads to one loudness by their gains, within their bounds. Pads that were not measured stay as they are. */
export function matchLoudness(kit: Kit, padIndexes: readonly number[], levelOf: (padIndex: number) => PadLevel | undefined, targetLufs: number): Kit {
  return mapPads(kit, padIndexes, (pad, padIndex) => {
    const level = levelOf(padIndex)
    if (!level || !Number.isFinite(level.hitLufs)) return pad
    const gainDb = Math.round(clampGain(pad.gainDb + targetLufs - level.hitLufs) * 10) / 10
    return gainDb === pad.gainDb ? pad : { ...pad, gainDb }
  })
}

/** Lowers, or raises, the kit as a whole so that what was measured at one peak comes to another. */
export function keepHeadroom(kit: Kit, peakDb: number, wantedPeakDb: number): Kit {
  // Rounded down, so that the wanted peak is not passed by rounding.
  return Number.isFinite(peakDb) ? setKitGain(kit, Math.floor((kit.gainDb + wantedPeakDb - peakDb) * 10) / 10) : kit
}
