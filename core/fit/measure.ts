import { fftOf, hannWindow, STRETCHES } from '../audio/analysis/fft'
import { kWeighting, weightedSteps } from '../audio/analysis/weighting'
import { conversionGains } from '../audio/resample'
import type { Audio } from './bake'

/** Version of these measures: those of another are taken anew. */
export const MEASURE_VERSION = 3

/** Steps of time in which the end of a sound is looked at. */
export const STEP_SECONDS = 0.01
/** Bands of the outline that layers are compared by. */
export const BANDS = 24
const LOWEST_HZ = 40
/** Above this nothing is heard (common practice). */
const HIGHEST_HZ = 18_000
const FFT_SIZE = 2048
const HOP = 1024
/** Steps of time of the outline that layers are compared by: the first half second. */
const OUTLINE_STEPS = 10
const OUTLINE_STEP_SECONDS = 0.05
/** A sound begins where it first comes up to this part of its peak: -60 dB. */
const BEGINS_AT = 0.001
/** So much is left before that, so that no attack is cut into. */
const BEFORE_SECONDS = 0.001

/** Rates that a sound may be brought down to, in Hz. */
export const LOWER_RATES = [96_000, 88_200, 64_000, 48_000, 44_100, 32_000, 24_000, 22_050, 16_000, 12_000, 11_025, 8_000] as const
/** The part of a rate's half up to which a converted sound keeps everything (see `audio/resample.ts`). */
export const KEPT_BAND = 0.9

/** What the cost of any change to a sample is worked out from. All decibels are K-weighted (ITU-R BS.1770-4). */
export interface SampleMeasure {
  readonly frames: number
  readonly sampleRate: number
  readonly channels: number
  /** Bits of a sample in the file that it came from; 32 for float, 0 for packed ones. */
  readonly sourceBits: number
  /** Bytes of the files that it came from, for a target that copies them; else 0. */
  readonly fileBytes: number
  /** Highest absolute value. */
  readonly peak: number
  /** Mean square over the whole sample and all channels, weighted. */
  readonly power: number
  /** What is left of the energy after so many steps of time, in dB of the whole; ends with the sample. */
  readonly left: readonly number[]
  /** Frames of silence before it begins. */
  readonly leadFrames: number
  /** Energy that each of `LOWER_RATES` takes away, as far as it can be heard, in dB of the whole. */
  readonly above: readonly number[]
  /** Undefined for mono. */
  readonly stereo: StereoMeasure | undefined
  /** Level of bands, in dB of the whole. */
  readonly bands: readonly number[]
  /** Level over the first half second, in dB of the loudest step. */
  readonly outline: readonly number[]
}

export interface StereoMeasure {
  /** -1 to 1; 1 for sides that are alike. */
  readonly correlation: number
  /** What any fold to mono takes away: the energy of the difference of the sides, in dB of the whole. */
  readonly sideDb: number
  /** Level of the left side over the right. */
  readonly balanceDb: number
}

/** Nothing at all, as a level. */
export const NOTHING_DB = -120

/** Measures a sample that was made of files of so many bits. */
export function measureSample({ channels, sampleRate }: Audio, sourceBits = 0): SampleMeasure {
  const frames = channels[0]?.length ?? 0
  const { sums, framesPerStep } = weightedSteps(channels, sampleRate, STEP_SECONDS)
  const total = sums.reduce((sum, value) => sum + value, 0)
  const spectrum = weightedSpectrum(channels, sampleRate)
  const whole = spectrum.reduce((sum, value) => sum + value, 0)
  const peak = peakOf(channels)
  return {
    frames, sampleRate, channels: Math.min(2, channels.length), sourceBits, fileBytes: 0,
    peak,
    power: frames > 0 ? total / frames / Math.min(2, channels.length) : 0,
    left: energyLeft(sums, total),
    leadFrames: leadOf(channels, sampleRate, peak),
    above: LOWER_RATES.map(rate => rate >= sampleRate ? NOTHING_DB : share(energyLost(spectrum, sampleRate, rate), whole)),
    stereo: channels.length > 1 ? stereoOf(channels[0]!, channels[1]!, sampleRate, total) : undefined,
    bands: bandsOf(spectrum, sampleRate, whole),
    outline: outlineOf(sums, framesPerStep, sampleRate),
  }
}

/** Highest absolute value of all channels. */
export function peakOf(channels: readonly Float32Array[]): number {
  let peak = 0
  for (const channel of channels) {
    let [low, high] = [0, 0]
    channel.forEach((value) => {
      if (value < low) low = value
      else if (value > high) high = value
    })
    peak = Math.max(peak, -low, high)
  }
  return peak
}

function energyLeft(sums: Float64Array, total: number): number[] {
  const out: number[] = []
  let after = total
  for (const sum of sums) {
    after -= sum
    out.push(round(share(Math.max(0, after), total)))
  }
  return out
}

function leadOf(channels: readonly Float32Array[], sampleRate: number, peak: number): number {
  const least = peak * BEGINS_AT
  const begins = Math.min(...channels.map((channel) => {
    const at = channel.findIndex(value => Math.abs(value) >= least && value !== 0)
    return at < 0 ? 0 : at
  }))
  return Math.max(0, begins - Math.round(BEFORE_SECONDS * sampleRate))
}

/** Power of each frequency over the whole sample, weighted as by the two filters of BS.1770. */
function weightedSpectrum(channels: readonly Float32Array[], sampleRate: number): Float64Array {
  const weights = spectrumWeights(sampleRate)
  const sum = new Float64Array(FFT_SIZE / 2)
  const fft = fftOf(FFT_SIZE)
  const window = hannWindow(FFT_SIZE)
  for (const channel of channels.slice(0, 2)) {
    for (let from = -FFT_SIZE / 2; from < channel.length; from += HOP * STRETCHES) {
      const several = fft.powerOfAll(channel, Array.from({ length: STRETCHES }, (_, i) => from + i * HOP), window)
      for (let bin = 0; bin < sum.length; bin++) sum[bin]! += several[bin]!
    }
  }
  return sum.map((value, bin) => value * weights[bin]!)
}

const weightsByRate = new Map<number, Float64Array>()

function spectrumWeights(sampleRate: number): Float64Array {
  const known = weightsByRate.get(sampleRate)
  if (known) return known
  const filters = kWeighting(sampleRate)
  const made = Float64Array.from({ length: FFT_SIZE / 2 }, (_, bin) => {
    const w = 2 * Math.PI * bin / FFT_SIZE
    return filters.reduce((gain, filter) => gain * powerGain(filter, w), 1)
  })
  weightsByRate.set(sampleRate, made)
  return made
}

/** What a filter of the second order does to the power at an angle of the unit circle. */
function powerGain({ b0, b1, b2, a1, a2 }: { readonly b0: number, readonly b1: number, readonly b2: number, readonly a1: number, readonly a2: number }, w: number): number {
  const [c1, s1, c2, s2] = [Math.cos(w), Math.sin(w), Math.cos(2 * w), Math.sin(2 * w)]
  const above = (b0 + b1 * c1 + b2 * c2) ** 2 + (b1 * s1 + b2 * s2) ** 2
  const below = (1 + a1 * c1 + a2 * c2) ** 2 + (a1 * s1 + a2 * s2) ** 2
  return above / Math.max(1e-12, below)
}

function energyFrom(spectrum: Float64Array, sampleRate: number, fromHz: number, toHz: number): number {
  let sum = 0
  const end = Math.min(spectrum.length, Math.ceil(toHz * FFT_SIZE / sampleRate))
  for (let bin = Math.max(0, Math.ceil(fromHz * FFT_SIZE / sampleRate)); bin < end; bin++) sum += spectrum[bin]!
  return sum
}

const lossesByRates = new Map<string, Float64Array>()

/** What a conversion to another rate takes away of the power of each frequency that is heard. */
function conversionLosses(sampleRate: number, rate: number): Float64Array {
  const key = `${sampleRate} ${rate}`
  const known = lossesByRates.get(key)
  if (known) return known
  const bins = Math.min(FFT_SIZE / 2, Math.ceil(HIGHEST_HZ * FFT_SIZE / sampleRate))
  const made = conversionGains(sampleRate, rate, Array.from({ length: bins }, (_, bin) => bin * sampleRate / FFT_SIZE)).map(gain => (1 - gain) ** 2)
  lossesByRates.set(key, made)
  return made
}

function energyLost(spectrum: Float64Array, sampleRate: number, rate: number): number {
  return conversionLosses(sampleRate, rate).reduce((sum, loss, bin) => sum + loss * spectrum[bin]!, 0)
}

function bandsOf(spectrum: Float64Array, sampleRate: number, whole: number): number[] {
  const edge = (band: number) => LOWEST_HZ * (HIGHEST_HZ / LOWEST_HZ) ** (band / BANDS)
  return Array.from({ length: BANDS }, (_, band) => round(share(energyFrom(spectrum, sampleRate, edge(band), edge(band + 1)), whole)))
}

function outlineOf(sums: Float64Array, framesPerStep: number, sampleRate: number): number[] {
  const perStep = Math.max(1, Math.round(OUTLINE_STEP_SECONDS * sampleRate / framesPerStep))
  const steps = Array.from({ length: OUTLINE_STEPS }, (_, step) => {
    let sum = 0
    for (let i = step * perStep; i < Math.min(sums.length, (step + 1) * perStep); i++) sum += sums[i]!
    return sum
  })
  const loudest = Math.max(...steps)
  return steps.map(step => round(share(step, loudest)))
}

function stereoOf(left: Float32Array, right: Float32Array, sampleRate: number, total: number): StereoMeasure {
  let [l, r, lr] = [0, 0, 0]
  for (let i = 0; i < left.length; i++) {
    const [a, b] = [left[i]!, right[i]!]
    l += a * a
    r += b * b
    lr += a * b
  }
  const difference = weightedSteps([left.map((value, i) => value - right[i]!)], sampleRate, STEP_SECONDS).sums.reduce((sum, value) => sum + value, 0)
  return {
    correlation: l > 0 && r > 0 ? lr / Math.sqrt(l * r) : 1,
    // What both sides have in common is (L+R)/2; (L-R)/2 is what each has beside it.
    sideDb: share(difference / 2, total),
    balanceDb: share(l, r) - (r > 0 ? 0 : NOTHING_DB),
  }
}

/** A part of a whole in dB, not below `NOTHING_DB`. */
function share(part: number, whole: number): number {
  return whole > 0 && part > 0 ? Math.max(NOTHING_DB, 10 * Math.log10(part / whole)) : NOTHING_DB
}

function round(db: number): number {
  return Math.round(db * 100) / 100
}
