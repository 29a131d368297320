import { bandwidthLossDb, ditherNoiseDb, foldOf, lossOf, ratioOf, tailLossDb, type Fold } from './cost'
import { bytesOfDepth, SAMPLE_DEPTHS, type SampleDepth } from '../formats/write'
import { NOTHING_DB, STEP_SECONDS, type SampleMeasure } from './measure'
import type { Target } from './target'

/** A sample as it could be written. */
export interface Variant {
  readonly sampleRate: number
  readonly depth: SampleDepth
  readonly channels: 1 | 2
  readonly fold: Fold | null
  /** Cut at the start and the frame after the last that stays, in frames of the sample before its rate is changed. */
  readonly fromFrame: number
  readonly toFrame: number
  readonly seconds: number
  readonly bytes: number
  /** What is lost, as loudness: see `lossOf`. */
  readonly loss: number
  /** What each change takes away, in dB of the sound. */
  readonly lostDb: { readonly bandwidth: number, readonly tail: number, readonly stereo: number, readonly noise: number }
}

/** What a user fixed of a pad. */
export interface Hold {
  /** Both sides stay. */
  readonly stereo?: boolean
  /** Nothing is cut at the end. */
  readonly length?: boolean
  /** The rate stays as high as the target takes. */
  readonly bandwidth?: boolean
  /** No layer and no take is dropped. */
  readonly layers?: boolean
  /** The pad is not left out. */
  readonly pad?: boolean
}

/** Beside its audio a file has a header, a root note and names; more than this is never written. */
export const FILE_BYTES = 256
/** Energy that may be left behind a cut, in dB of the sound. */
const TAIL_STEPS_DB = [-80, -70, -62, -55, -49, -43, -38, -33, -28, -24, -20, -16, -12, -8] as const
/** Silence at the start that is not worth a change. */
const SHORTEST_LEAD_SECONDS = 0.002
/** A sound is never cut shorter than this. */
const SHORTEST_SECONDS = 0.03

/** What of a sample a target limits, beside what it always asks for. */
export interface Scarce {
  readonly seconds: boolean
  readonly bytes: boolean
}

/**
 * The ways to write a sample for a target, from the least loss on; those that are no smaller than one with less loss are left
 * out. None where the target can't take it as it is held.
 *
 * @param gainDb what its level is changed by when it is written
 */
export function variantsOf(measure: SampleMeasure, target: Target, hold: Hold, scarce: Scarce, gainDb: number): Variant[] {
  const wide = measure.channels === 2 && target.audio.channels === 2
  const { fold, lossDb } = foldOf(measure)
  const isSame = measure.channels === 2 && fold === 'same'
  const widths: readonly (1 | 2)[] = !wide || isSame ? [1] : hold.stereo || !scarce.bytes ? [2] : [2, 1]
  const cuts = cutsOf(measure, target, hold, scarce).map(cut => ({ ...cut, tail: tailLossDb(measure, cut.fromFrame, cut.toFrame) }))
  const all: Variant[] = []
  for (const sampleRate of ratesOf(measure, target, hold, scarce)) {
    for (const channels of widths) {
      for (const depth of depthsOf(target, scarce)) {
        for (const { fromFrame, toFrame, tail } of cuts) {
          const lostDb = {
            bandwidth: bandwidthLossDb(measure, sampleRate),
            tail,
            stereo: channels === 1 && measure.channels === 2 ? lossDb : NOTHING_DB,
            noise: ditherNoiseDb(measure, depth, gainDb),
          }
          all.push(sized({
            sampleRate, depth, channels, fold: channels === 1 && measure.channels === 2 ? fold : null, fromFrame, toFrame, seconds: 0, bytes: 0,
            loss: lossOf(Object.values(lostDb).reduce((sum, db) => sum + ratioOf(db), 0)),
            lostDb,
          }, measure))
        }
      }
    }
  }
  return worthwhile(all, scarce)
}

/** A variant with the time and the bytes that it takes. */
export function sized(variant: Variant, measure: Pick<SampleMeasure, 'sampleRate'>): Variant {
  const { fromFrame, toFrame, sampleRate, channels, depth } = variant
  const frames = Math.max(1, Math.round((toFrame - fromFrame) * sampleRate / measure.sampleRate))
  return { ...variant, seconds: frames / sampleRate, bytes: frames * channels * bytesOfDepth(depth) + FILE_BYTES }
}

/** Rates that a target takes: the best, and lower ones where bytes are scarce. A sound is not brought up unless it must be. */
function ratesOf(measure: SampleMeasure, { audio }: Target, hold: Hold, scarce: Scarce): number[] {
  const most = Math.min(measure.sampleRate, audio.highestRate)
  if (audio.rates.length === 0) return scarce.bytes && !hold.bandwidth ? [most, ...[48_000, 44_100, 32_000, 22_050, 16_000].filter(rate => rate < most)] : [most]
  const sorted = audio.rates.toSorted((a, b) => a - b)
  const enough = sorted.find(rate => rate >= most) ?? sorted.at(-1)!
  return scarce.bytes && !hold.bandwidth ? sorted.filter(rate => rate <= enough).reverse() : [enough]
}

function depthsOf({ audio }: Target, scarce: Scarce): readonly SampleDepth[] {
  const best = SAMPLE_DEPTHS.filter(depth => audio.depths.includes(depth))
  return scarce.bytes ? best : best.slice(0, 1)
}

/** Stretches of a sample that could be kept: all of it, or from its beginning to where ever less is left. */
function cutsOf(measure: SampleMeasure, target: Target, hold: Hold, scarce: Scarce): { fromFrame: number, toFrame: number }[] {
  const { frames, sampleRate } = measure
  const longest = target.limits.longestSeconds === null ? frames : Math.floor(target.limits.longestSeconds * sampleRate)
  const whole = { fromFrame: 0, toFrame: frames }
  const isScarce = scarce.seconds || scarce.bytes
  if ((!isScarce || hold.length) && frames <= longest) return [whole]
  if (hold.length) return []
  const fromFrame = measure.leadFrames / sampleRate >= SHORTEST_LEAD_SECONDS ? measure.leadFrames : 0
  const least = fromFrame + Math.round(SHORTEST_SECONDS * sampleRate)
  const ends = TAIL_STEPS_DB.map((db) => {
    const step = measure.left.findIndex(left => left <= db)
    return step < 0 ? frames : Math.round((step + 1) * STEP_SECONDS * sampleRate)
  })
  const cuts = [frames, ...ends].map(toFrame => ({ fromFrame, toFrame: Math.min(frames, Math.max(least, Math.min(toFrame, fromFrame + longest))) }))
  const all = frames <= longest ? [whole, ...cuts] : cuts
  return [...new Map(all.map(cut => [`${cut.fromFrame} ${cut.toFrame}`, cut])).values()]
}

/** Sorted by loss; of each only what is smaller in something scarce than all before it. */
function worthwhile(all: readonly Variant[], scarce: Scarce): Variant[] {
  const sorted = all.toSorted((a, b) => a.loss - b.loss || a.bytes - b.bytes)
  if (!scarce.seconds && !scarce.bytes) return sorted.slice(0, 1)
  const kept: Variant[] = []
  for (const one of sorted) {
    const beaten = kept.some(other => (!scarce.bytes || other.bytes <= one.bytes) && (!scarce.seconds || other.seconds <= one.seconds))
    if (!beaten) kept.push(one)
  }
  return kept
}
