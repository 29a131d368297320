import type { SampleDepth } from '../formats/write'
import { fromDb } from '../audio/level'
import { fadeOutFrames, fadeOutGain } from './reshape'
import { LOWER_RATES, NOTHING_DB, STEP_SECONDS, type SampleMeasure } from './measure'

/**
 * How much of a sound is lost, as loudness: 0 nothing, 1 as loud as the sound itself. A tenfold power is heard as twice as loud.
 * Source: S. S. Stevens, "The measurement of loudness" (JASA 1955), the power law with exponent 0.3.
 *
 * @param ratio power of what is lost over that of the sound
 */
export function lossOf(ratio: number): number {
  return Math.min(1, ratio) ** 0.3
}

/** A level in dB as a ratio of powers; what lies at the lowest level that is measured is nothing. */
export function ratioOf(db: number): number {
  return db <= NOTHING_DB ? 0 : 10 ** (db / 10)
}

/** Energy above what a rate keeps, in dB of the sound. */
export function bandwidthLossDb(measure: SampleMeasure, rate: number): number {
  if (rate >= measure.sampleRate) return NOTHING_DB
  // Of a rate that is not measured, the next lower one.
  const at = LOWER_RATES.findIndex(known => known <= rate)
  return at < 0 ? 0 : measure.above[at]!
}

/** Pieces that a fade is weighed in. */
const FADE_PIECES = 32

/** What a cut takes away with its fade: all behind `toFrame`, and what the fade leaves less of; in dB of the sound. */
export function tailLossDb(measure: SampleMeasure, fromFrame: number, toFrame: number): number {
  if (toFrame >= measure.frames) return NOTHING_DB
  const fade = fadeOutFrames(toFrame - fromFrame, measure.sampleRate)
  let lost = partLeft(measure, toFrame)
  for (let piece = 0; piece < FADE_PIECES; piece++) {
    const [from, to] = [piece, piece + 1].map(at => toFrame - fade + fade * at / FADE_PIECES) as [number, number]
    lost += (partLeft(measure, from) - partLeft(measure, to)) * (1 - fadeOutGain((piece + 0.5) / FADE_PIECES)) ** 2
  }
  return lost > 0 ? Math.max(NOTHING_DB, Math.min(0, 10 * Math.log10(lost))) : NOTHING_DB
}

/** The part of the energy that comes after a frame; within a step it falls evenly in dB, as decays do. */
function partLeft({ left, sampleRate }: SampleMeasure, frame: number): number {
  const at = frame / (STEP_SECONDS * sampleRate)
  const step = Math.floor(at)
  const before = step === 0 ? 0 : left[step - 1] ?? NOTHING_DB
  const after = left[step] ?? NOTHING_DB
  return fromDb(before + (after - before) * (at - step)) ** 2
}

/** Noise of dither against the sound, in dB. Source: `audio/dither.ts`; total error RMS is half the last bit. */
export function ditherNoiseDb(measure: SampleMeasure, depth: SampleDepth, gainDb: number): number {
  if (depth === 'float' || measure.power === 0) return NOTHING_DB
  const lastBit = 2 ** -(depth - 1)
  return Math.max(NOTHING_DB, 10 * Math.log10((lastBit / 2) ** 2 / (measure.power * fromDb(gainDb) ** 2)))
}

/** Which side, or both, a stereo sample is folded to. */
export type Fold = 'same' | 'sum' | 'left' | 'right'

/** Sides more alike than this are summed: below it a sum would cancel and colour more than it keeps. */
const SUMMED_FROM = 0.5
/** Sides that differ by less are the same. */
const SAME_DB = -90

/** How a stereo sample is best made mono, and what that takes away in dB. */
export function foldOf({ stereo }: SampleMeasure): { readonly fold: Fold, readonly lossDb: number } {
  if (!stereo || stereo.sideDb <= SAME_DB) return { fold: 'same', lossDb: NOTHING_DB }
  const fold = stereo.correlation >= SUMMED_FROM ? 'sum' : stereo.balanceDb >= 0 ? 'left' : 'right'
  return { fold, lossDb: stereo.sideDb }
}

/** Quiet bands count less: what lies so far below the loudest is not told apart. */
const RANGE_DB = 40

/**
 * How far two samples differ in colour and course when they play equally loud: the mean difference of bands and of the outline, in
 * dB. What lies more than 40 dB down counts as there.
 */
export function distanceDb(one: SampleMeasure, other: SampleMeasure): number {
  return (meanDifference(one.bands, other.bands) * 2 + meanDifference(one.outline, other.outline)) / 3
}

function meanDifference(a: readonly number[], b: readonly number[]): number {
  const [highA, highB] = [Math.max(...a), Math.max(...b)]
  return a.reduce((sum, value, i) => sum + Math.abs(Math.max(-RANGE_DB, value - highA) - Math.max(-RANGE_DB, b[i]! - highB)), 0) / a.length
}

/** Power of the difference of two samples over that of one, as their distance tells it: 6 dB off everywhere is as much as the sound. */
export function ratioOfDistance(db: number): number {
  return Math.min(1, (fromDb(db) - 1) ** 2)
}
