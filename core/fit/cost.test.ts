import { describe, expect, it } from 'vitest'
import { noise, sine } from '../../tests/helpers/audio'
import { bandwidthLossDb, ditherNoiseDb, distanceDb, foldOf, lossOf, ratioOfDistance, tailLossDb } from './cost'
import { measureSample, NOTHING_DB } from './measure'

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
    for (const seconds of [0.1, 0.2, 0.3, 0.4]) expect(tailLossDb(measure, Math.round(seconds * RATE))).toBeCloseTo(-8.686 * seconds / constant, -0.5)
    expect(tailLossDb(measure, RATE)).toBe(NOTHING_DB)
    expect(tailLossDb(measure, 100)).toBe(0)
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
