import type { Kit, Pad } from './document'
import { mapPads } from './edits'
import { withNote, withRange } from './noteEdits'

/** Settings of a pad that are numbers and can be moved by so much. */
export type NumberSetting = 'gainDb' | 'pan' | 'tuneCents' | 'driveDb' | 'note' | 'lowNote' | 'highNote' | 'rootNote' | 'trackCents' | 'velocityTrack' | 'chokeSeconds' | 'attackSeconds' | 'holdSeconds' | 'decaySeconds' | 'releaseSeconds' | 'cutoffHz' | 'resonanceDb'

interface Bounds {
  readonly low: number
  readonly high: number
  /** Moved by a ratio in place of a sum. */
  readonly isRatio?: boolean
}

/** How far each can go: as the document says. */
export const BOUNDS: Readonly<Record<NumberSetting, Bounds>> = {
  gainDb: { low: -96, high: 24 },
  pan: { low: -1, high: 1 },
  tuneCents: { low: -4800, high: 4800 },
  driveDb: { low: 0, high: 36 },
  note: { low: 0, high: 127 },
  lowNote: { low: 0, high: 127 },
  highNote: { low: 0, high: 127 },
  rootNote: { low: 0, high: 127 },
  trackCents: { low: -1200, high: 1200 },
  velocityTrack: { low: -1, high: 1 },
  chokeSeconds: { low: 0, high: 30 },
  attackSeconds: { low: 0, high: 10 },
  holdSeconds: { low: 0, high: 30 },
  decaySeconds: { low: 0.001, high: 60 },
  releaseSeconds: { low: 0.001, high: 60 },
  cutoffHz: { low: 20, high: 20_000, isRatio: true },
  resonanceDb: { low: 0, high: 30 },
}

const OF_RANGE = { lowNote: 'low', highNote: 'high', rootNote: 'root', trackCents: 'trackCents' } as const

/** What a number of a pad is; undefined where the pad has no such thing, as no filter. */
export function numberOf(pad: Pad, setting: NumberSetting): number | undefined {
  switch (setting) {
    case 'cutoffHz':
    case 'resonanceDb':
      return pad.filter?.[setting]
    case 'attackSeconds':
    case 'holdSeconds':
    case 'releaseSeconds':
      return pad.envelope[setting]
    case 'decaySeconds':
      return pad.envelope.decaySeconds ?? undefined
    case 'lowNote':
    case 'highNote':
    case 'rootNote':
    case 'trackCents':
      return pad.range?.[OF_RANGE[setting]]
    default:
      return pad[setting]
  }
}

/** Sets a number on several pads, held within its bounds. Pads that have no such thing stay as they are. */
export function setNumber(kit: Kit, padIndexes: readonly number[], setting: NumberSetting, value: number): Kit {
  return mapPads(kit, padIndexes, pad => numberOf(pad, setting) === undefined ? pad : withNumber(pad, setting, value))
}

/**
 * Moves a number of several pads by as much, so that they keep their differences as far as the bounds allow.
 *
 * @param by added; of the cutoff, in octaves
 */
export function nudgePads(kit: Kit, padIndexes: readonly number[], setting: NumberSetting, by: number): Kit {
  return mapPads(kit, padIndexes, (pad) => {
    const value = numberOf(pad, setting)
    if (value === undefined) return pad
    return withNumber(pad, setting, BOUNDS[setting].isRatio ? value * 2 ** by : value + by)
  })
}

function withNumber(pad: Pad, setting: NumberSetting, wanted: number): Pad {
  const { low, high } = BOUNDS[setting]
  const value = Math.max(low, Math.min(high, wanted))
  if (value === numberOf(pad, setting)) return pad
  switch (setting) {
    case 'cutoffHz':
    case 'resonanceDb':
      return pad.filter ? { ...pad, filter: { ...pad.filter, [setting]: value } } : pad
    case 'attackSeconds':
    case 'holdSeconds':
    case 'decaySeconds':
    case 'releaseSeconds':
      return { ...pad, envelope: { ...pad.envelope, [setting]: value } }
    case 'note':
      return withNote(pad, Math.round(value))
    case 'lowNote':
    case 'highNote':
    case 'rootNote':
    case 'trackCents':
      return pad.range ? withRange(pad, { ...pad.range, [OF_RANGE[setting]]: setting === 'trackCents' ? value : Math.round(value) }) : pad
    default:
      return { ...pad, [setting]: value }
  }
}
