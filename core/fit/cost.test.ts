import { describe, expect, it } from 'vitest'
import { noise, sine } from '../../tests/helpers/audio'
import { bandwidthLossDb, ditherNoiseDb, distanceDb, foldOf, lossOf, ratioOfDistance, tailLossDb } from './cost'
import { weightedSteps } from '../audio/analysis/weighting'
import { interpolate, sincKernel } from '../audio/sinc'
import { Sounds } from '../../tests/helpers/fit'
import type { Audio } from './bake'
import { measureSample, NOTHING_DB } from './measure'
import { reshape } from './reshape'
import type { Variant } from './variants'

const RATE = 48_000
const tone = (hz: number, frames = RATE) => sine(hz, RATE, frames, 0.5)

describe('what a sample loses', () => {
  it('at a lower rate is what lies above half of it, as far as it is heard', () => {
    const at = (hz: number) => measureSample({ channels: [tone(hz)], sampleRate: RATE })
    // 1 kHz is kept by every rate down to 8 kHz; 10 kHz is all lost at 16 kHz, and kept at 44.1.
    expect(bandwidthLossDb(at(1000), 8_000)).toBeLessThan(-40)
    expect(bandwidthLossDb(at(10_000), 16_000)).toBeCloseTo(0, 1)
    expect(bandwidthLossDb(at(10_000), 44_100)).toBeLessThan(-40)
    // Nobody hears 19 kHz (common practice).
    expect(bandwidthLossDb(at(19_000), 32_000)).toBeLessThan(-40)
    expect(bandwidthLossDb(at(1000), 96_000)).toBe(NOTHING_DB)
  })

  it('of two tones the upper one, by its share of the energy', () => {
    const upper = tone(9000)
    const both = tone(1000).map((value, i) => value + upper[i]! * 0.1)
    const measure = measureSample({ channels: [both], sampleRate: RATE })
    // K-weighting raises 9 kHz over 1 kHz by some 3.3 dB (BS.1770-4, the shelf): -20 + 3.3.
    expect(bandwidthLossDb(measure, 16_000)).toBeCloseTo(-16.7, 0)
  })

  it('behind a cut is what an even decay leaves: 8.69 dB for each time constant (arithmetic)', () => {
    const constant = 0.1
    const decay = tone(1000, RATE).map((value, i) => value * Math.exp(-i / (constant * RATE)))
    const measure = measureSample({ channels: [decay], sampleRate: RATE })
    for (const seconds of [0.1, 0.2, 0.3, 0.4]) expect(Math.abs(tailLossDb(measure, 0, Math.round(seconds * RATE)) - evenDecayDb(seconds, constant))).toBeLessThan(0.3)
    expect(tailLossDb(measure, 0, RATE)).toBe(NOTHING_DB)
    expect(tailLossDb(measure, 0, 100)).toBeGreaterThan(-0.5)
  })

  it('to dither is half the last bit against the sound (references.md): a full sine over 16 bits by 98 dB', () => {
    const measure = measureSample({ channels: [sine(1000, RATE, RATE, 1)], sampleRate: RATE })
    // Sine of full scale -3.01 dB; LSB/2 of 16 bits is 2^-16: -96.33 dB. K-weighting at 1 kHz is +0.7 dB.
    expect(ditherNoiseDb(measure, 16, 0)).toBeCloseTo(-96.33 + 3.01 - 0.7, 0)
    expect(ditherNoiseDb(measure, 24, 0)).toBeLessThanOrEqual(-119.9)
    expect(ditherNoiseDb(measure, 16, -20) - ditherNoiseDb(measure, 16, 0)).toBeCloseTo(20, 6)
    expect(ditherNoiseDb(measure, 'float', 0)).toBe(NOTHING_DB)
  })
})

/** An even decay cut after so many seconds, with the fade of half a cosine over 30 ms before: worked out in steps of 10 microseconds. */
function evenDecayDb(seconds: number, constant: number): number {
  const step = 1e-5
  let lost = 0
  for (let t = seconds - 0.03; t < seconds; t += step) lost += Math.exp(-2 * t / constant) * 2 / constant * step * (0.5 - 0.5 * Math.cos(Math.PI * (t - seconds + 0.03) / 0.03)) ** 2
  return 10 * Math.log10(lost + Math.exp(-2 * seconds / constant))
}

describe('the cost that is stated', () => {
  const sounds = new Sounds()
  const fine = sincKernel(200, 0.995, 10, 512)
  /** Of a sound as it is written, brought back to its own rate by another way than it was converted: what differs, weighted, in dB. */
  const measuredDb = (audio: Audio, variant: Variant): number => {
    const [made] = reshape(audio, variant).channels
    const back = (i: number) => i < variant.fromFrame ? 0 : interpolate(made!, (i - variant.fromFrame) * variant.sampleRate / audio.sampleRate, fine)
    const difference = audio.channels[0]!.map((value, i) => value - (i >= variant.toFrame ? 0 : variant.sampleRate === audio.sampleRate ? made![i - variant.fromFrame] ?? 0 : back(i)))
    const sum = (channel: Float32Array) => weightedSteps([channel], audio.sampleRate, 0.01).sums.reduce((all, value) => all + value, 0)
    return 10 * Math.log10(sum(difference) / sum(audio.channels[0]!))
  }
  /** Below -60 dB nothing is heard, and the words say so. */
  const HEARD_DB = -60

  it.each([1, 2, 3, 4, 5, 6])('of a cut tail, fade and all, is within 1 dB of what the written file lacks: sound %i', (seed) => {
    const audio = sounds.audio.get(sounds.hit(`Hit ${seed}`, seed, { seconds: 0.1 + seed / 8, sampleRate: seed % 2 ? 48_000 : 44_100 }).id)!
    const measure = measureSample(audio)
    for (const part of [0.15, 0.33, 0.5, 0.8, 0.95]) {
      const variant = variantOf(audio, { toFrame: Math.round(measure.frames * part) })
      expect(Math.abs(tailLossDb(measure, 0, variant.toFrame) - measuredDb(audio, variant))).toBeLessThan(1)
    }
  })

  it.each([1, 2, 3, 4, 5, 6])('of a lower rate is within 1 dB of what the written file lacks, where that is heard: sound %i', (seed) => {
    // Noise that falls towards its top, without anything above what is heard.
    const rate = 36_000
    const white = noise(rate / 2, seed)
    let last = 0
    const channel = white.map((value, i) => (last += (value - last) * seed / 7) * Math.exp(-i / 4000))
    const audio = { channels: [channel], sampleRate: rate }
    const measure = measureSample(audio)
    for (const sampleRate of [32_000, 24_000, 22_050, 16_000, 11_025, 8_000]) {
      const measured = measuredDb(audio, variantOf(audio, { sampleRate }))
      const stated = bandwidthLossDb(measure, sampleRate)
      if (Math.max(measured, stated) > HEARD_DB) expect(Math.abs(stated - measured), `${sampleRate} Hz`).toBeLessThan(1)
    }
  })
})

function variantOf({ channels, sampleRate }: Audio, change: Partial<Variant>): Variant {
  const nothing = { bandwidth: NOTHING_DB, tail: NOTHING_DB, stereo: NOTHING_DB, noise: NOTHING_DB }
  return { sampleRate, depth: 'float', channels: 1, fold: null, fromFrame: 0, toFrame: channels[0]!.length, seconds: 0, bytes: 0, loss: 0, lostDb: nothing, ...change }
}

describe('folding to mono', () => {
  const fold = (left: Float32Array, right: Float32Array) => foldOf(measureSample({ channels: [left, right], sampleRate: RATE }))
  const one = noise(RATE, 1)

  it('of sides that are the same costs nothing', () => {
    expect(fold(one, one)).toEqual({ fold: 'same', lossDb: NOTHING_DB })
  })

  it('sums sides that go together, and takes the louder one of those that would cancel', () => {
    expect(fold(one, one.map(value => value * 0.7)).fold).toBe('sum')
    expect(fold(one.map(value => value * 0.5), one.map(value => -value)).fold).toBe('right')
    expect(fold(one, one.map(value => -value * 0.5)).fold).toBe('left')
    expect(fold(one, noise(RATE, 2).map(value => value * 0.4)).fold).toBe('left')
  })

  it('loses what the sides differ in: (1-0.7)^2/2 of 1+0.7^2 (arithmetic)', () => {
    expect(fold(one, one.map(value => value * 0.7)).lossDb).toBeCloseTo(10 * Math.log10(0.3 ** 2 / 2 / (1 + 0.7 ** 2)), 1)
    // Sides without anything in common: half of all.
    expect(fold(one, noise(RATE, 2)).lossDb).toBeCloseTo(-3, 0)
  })
})

describe('distances and losses', () => {
  it('a sample is no distance from itself, at any level, and far from another sound', () => {
    const measure = (channel: Float32Array) => measureSample({ channels: [channel], sampleRate: RATE })
    const kick = tone(60, 9600).map((value, i) => value * Math.exp(-i / 2000))
    expect(distanceDb(measure(kick), measure(kick.map(value => value * 0.2)))).toBeLessThan(0.2)
    expect(distanceDb(measure(kick), measure(noise(9600, 3)))).toBeGreaterThan(6)
  })

  it('a tenth of the power is heard as half as loud (Stevens, exponent 0.3), and nothing costs more than all of it', () => {
    expect(lossOf(0.1)).toBeCloseTo(0.5, 2)
    expect([lossOf(0), lossOf(1), lossOf(50)]).toEqual([0, 1, 1])
    expect([ratioOfDistance(0), ratioOfDistance(40)]).toEqual([0, 1])
  })

  it('silence is measured without a number that is none', () => {
    const measure = measureSample({ channels: [new Float32Array(4800)], sampleRate: RATE })
    expect(JSON.stringify(measure)).not.toMatch(/null|NaN/)
    expect([measure.peak, measure.power]).toEqual([0, 0])
  })
})
