import { energiesOfPair, meanOfPair } from '../sweep'
import { fftOf, hannWindow, STRETCHES } from './fft'
import { flatnessOf } from './flatness'
import type { Heard } from './heard'

/** The colour of a stretch of sound. */
export interface Colour {
  /** Centre of gravity of the power spectrum, Hz. */
  readonly centroidHz: number
  /** Frequency below which 85 % of the power lies, Hz. */
  readonly rolloffHz: number
  /** Geometric over arithmetic mean of the power, 0 (a tone) to 1 (white noise). */
  readonly flatness: number
  /** 0 (tones) to 1 (noise). */
  readonly noisiness: number
  /** Mean power of the stretch, in units of its own, to weigh it against another. */
  readonly power: number
  /** Parts of the power below 250 Hz, from there to 4 kHz, and above; together 1. */
  readonly low: number
  readonly mid: number
  readonly high: number
}

/** What counts as a sound's attack when its colour is measured; its body is what follows. */
export const ATTACK_SECONDS = 0.06

const WINDOW_SECONDS = 0.023
const MOST_PAIRS = STRETCHES / 2
const LOW_HZ = 250
const HIGH_HZ = 4000
const FLATNESS_FROM_HZ = 100
const FLATNESS_TO_HZ = 16_000
const ROLLOFF_PART = 0.85
/** Flatness in dB that counts as nothing but tones. */
const TONAL_DB = -35
const DARKEST_HZ = 80
const BRIGHTEST_HZ = 12_000

/**
 * Measures the colour of a stretch from the mean of up to eight short spectra; undefined for silence.
 * Source: Peeters, "A large set of audio features for sound description" (2004): centroid, roll-off, flatness.
 */
export function colourOf(heard: Heard, fromSeconds: number, toSeconds: number): Colour | undefined {
  const { mono, sampleRate, topHz } = heard
  const size = 2 ** Math.max(6, Math.round(Math.log2(WINDOW_SECONDS * sampleRate)))
  const frameAt = (seconds: number) => Math.round((seconds - heard.fromSeconds) * sampleRate)
  const power = meanSpectrum(mono, size, frameAt(fromSeconds), frameAt(toSeconds))
  const perBin = sampleRate / size
  const [midFrom, highFrom] = [binFrom(LOW_HZ, perBin, power), binFrom(HIGH_HZ, perBin, power)]
  let sum = 0
  let weighted = 0
  let low = 0
  let high = 0
  for (let bin = 1; bin < power.length; bin++) {
    const value = power[bin]!
    sum += value
    weighted += value * bin * perBin
    if (bin < midFrom) low += value
    else if (bin >= highFrom) high += value
  }
  if (sum <= 0) return undefined
  let rolloff = 0
  for (let below = 0; below < ROLLOFF_PART * sum; below += power[rolloff]!) rolloff++
  const flatness = flatnessOf(power, Math.ceil(FLATNESS_FROM_HZ * size / sampleRate), Math.floor(Math.min(FLATNESS_TO_HZ, topHz) * size / sampleRate), 1e-20)
  return {
    centroidHz: weighted / sum,
    rolloffHz: rolloff * perBin,
    flatness,
    noisiness: Math.max(0, Math.min(1, 1 - 10 * Math.log10(Math.max(flatness, 1e-10)) / TONAL_DB)),
    power: sum,
    low: low / sum,
    mid: (sum - low - high) / sum,
    high: high / sum,
  }
}

/** First line of a spectrum from a frequency on. */
function binFrom(hz: number, perBin: number, power: Float32Array): number {
  return Math.min(power.length, Math.ceil(hz / perBin))
}

/**
 * How bright a sound is, 0 to 100: its centre of gravity on a scale of equal musical steps from 80 Hz to 12 kHz, since
 * the ear takes brightness by ratio and not by difference.
 */
export function brightness(centroidHz: number): number {
  const part = Math.log(centroidHz / DARKEST_HZ) / Math.log(BRIGHTEST_HZ / DARKEST_HZ)
  return Math.round(100 * Math.max(0, Math.min(1, part)))
}

/** The first two channels mixed to one; where they would cancel each other out, the first alone. */
export function monoOf(channels: readonly Float32Array[]): Float32Array {
  const [left, right] = channels
  if (!left || !right) return left ?? new Float32Array(0)
  const { left: leftEnergy, right: rightEnergy, product } = energiesOfPair(left, right)
  const [together, apart] = [leftEnergy + rightEnergy + 2 * product, leftEnergy + rightEnergy - 2 * product]
  return together < apart / 4 ? left : meanOfPair(left, right)
}

function meanSpectrum(mono: Float32Array, size: number, from: number, to: number): Float32Array {
  const span = Math.max(0, to - from - size)
  const count = 2 * Math.max(1, Math.min(MOST_PAIRS, Math.ceil(span / size)))
  const sum = fftOf(size).powerOfAll(mono, Array.from({ length: count }, (_, i) => from + Math.round(span * i / (count - 1))), hannWindow(size))
  for (let bin = 0; bin < sum.length; bin++) sum[bin]! /= count
  return sum
}
