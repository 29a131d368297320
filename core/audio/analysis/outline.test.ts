import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { noise, sine } from '../../../tests/helpers/audio'
import { BANDS, bandPowersOf } from './bands'
import { envelopeOf } from './envelope'
import { heardOf } from './heard'
import { attackOf, beginningOf, burstsOf, crestOf, energyOver, lengthAbove, levelAt, roughnessOf, temporalCentre } from './outline'

const RATE = 48_000
const heard = (mono: Float32Array, rate = RATE) => heardOf(mono, rate, 0, mono.length / rate)

/** A tone whose level is told by time; the envelope follows its crests, every quarter of a millisecond. */
function shaped(seconds: number, level: (seconds: number) => number) {
  return envelopeOf([Float32Array.from({ length: Math.round(seconds * RATE) }, (_, i) => level(i / RATE) * Math.sin(2 * Math.PI * 2000 * i / RATE))], RATE)
}
/** Down by 60 dB in so many seconds. */
const falling = (t60: number) => (seconds: number) => 10 ** (-3 * seconds / t60)

describe('the outline of a level', () => {
  it('begins where the hit rises, whatever hiss lies before it, and leaves out no attack', () => {
    const late = (rise: number) => shaped(1, t => t < 0.2 ? 0.005 : Math.min(1, (t - 0.2) / rise) * falling(0.5)(t - 0.2))
    expect(beginningOf(late(0.001))).toBeCloseTo(0.2, 2)
    const slow = beginningOf(late(0.02))
    expect(slow).toBeGreaterThanOrEqual(0.199)
    expect(slow).toBeLessThan(0.204)
  })

  it('is as long above a part of the peak as the fall says', () => {
    fc.assert(fc.property(fc.double({ min: 0.1, max: 1, noNaN: true }), (t60) => {
      const envelope = shaped(1.2, falling(t60))
      // 20 dB are a third of 60, 40 dB two thirds.
      expect(lengthAbove(envelope, 0, 0.1)).toBeCloseTo(t60 / 3, 2)
      expect(lengthAbove(envelope, 0, 0.01)).toBeCloseTo(t60 * 2 / 3, 2)
    }), { numRuns: 25 })
  })

  it('takes until nine tenths of the height to attack', () => {
    for (const rise of [0.005, 0.02, 0.08]) expect(attackOf(shaped(0.5, t => Math.min(1, t / rise)), 0)).toBeCloseTo(0.9 * rise, 2)
  })

  it('has its energy where its level lies', () => {
    const halves = energyOver(shaped(0.4, t => t < 0.1 ? 1 : t < 0.2 ? 0.5 : 0), 0)
    expect(halves(0, 0.1) / halves(0.1, 0.2)).toBeCloseTo(4, 1)
    // A little of the last crest falls into the first step after it.
    expect(halves(0.21, 0.4)).toBe(0)
  })

  it('of an even level is centred in the middle, of a falling one early', () => {
    expect(temporalCentre(shaped(0.6, () => 1), 0)).toBeCloseTo(0.3, 2)
    // The energy falls by 60 dB in t60: its mean time is t60 / ln(10^6).
    expect(temporalCentre(shaped(1, falling(0.5)), 0)).toBeCloseTo(0.5 / Math.log(1e6), 2)
  })

  it('counts the hands of a clap within its first 70 ms, and none in one clean stroke', () => {
    const clap = (hands: number) => shaped(0.3, t => Math.max(...Array.from({ length: hands }, (_, i) => t < i * 0.015 ? 0 : falling(0.02)(t - i * 0.015))))
    const one = burstsOf(shaped(0.3, falling(0.3)), 0)
    const counts = [2, 3, 4].map(hands => burstsOf(clap(hands), 0) - one)
    expect(counts[0]!).toBeGreaterThan(0)
    expect(counts).toEqual([counts[0]!, counts[0]! + 1, counts[0]! + 2])
  })

  it('is rough where the level jumps, smooth where it glides', () => {
    const smooth = roughnessOf(shaped(0.5, falling(1)), 0)
    expect(smooth).toBeLessThan(0.05)
    expect(roughnessOf(shaped(0.5, t => Math.floor(t / 0.01) % 2 === 0 ? 1 : 0.3), 0)).toBeGreaterThan(smooth + 0.3)
  })

  it('has no crest where the level is even, and a high one where one peak stands alone', () => {
    expect(crestOf(shaped(0.5, () => 1), 0)).toBeCloseTo(0, 1)
    // One in twenty-five of the time at full level: 14 dB of 24.
    expect(crestOf(shaped(0.5, t => t < 0.01 ? 1 : 0.001), 0)).toBeCloseTo(14 / 24, 1)
  })

  it('tells the highest level within 4 ms of a moment', () => {
    const envelope = shaped(0.5, t => Math.abs(t - 0.2) < 0.001 ? 1 : 0.1)
    expect(levelAt(envelope, 0.203)).toBeCloseTo(1, 1)
    expect(levelAt(envelope, 0.21)).toBeCloseTo(0.1, 1)
    expect(levelAt(envelope, 3)).toBe(0)
  })
})

describe('power in bands over time', () => {
  const mean = (powers: ReturnType<typeof bandPowersOf>, band: number, from = 0, to = powers.frames) => {
    let sum = 0
    for (let frame = from; frame < to; frame++) sum += powers.values[frame * BANDS + band]!
    return sum / (to - from)
  }
  // 60 Hz to 15 kHz in 20 equal steps of ratio.
  const middle = (band: number) => 60 * 250 ** ((band + 0.5) / BANDS)

  it('lies in the band of a tone, 20 dB and more above those that are not its neighbours', () => {
    for (const band of [9, 12, 15, 18]) {
      const powers = bandPowersOf(heard(sine(middle(band), RATE, RATE / 2)), 0, 0.5)
      const all = Array.from({ length: BANDS }, (_, other) => mean(powers, other, 2, powers.frames - 2))
      expect(all.indexOf(Math.max(...all))).toBe(band)
      for (let other = 0; other < BANDS; other++) if (Math.abs(other - band) > 2) expect(all[other]! / all[band]!).toBeLessThan(0.01)
    }
  })

  it('follows the level in time, frame by frame half a window apart', () => {
    const channel = sine(2000, RATE, RATE / 2).map((value, i) => i < RATE / 4 ? value : value / 10)
    const powers = bandPowersOf(heard(channel), 0, 0.5)
    const half = Math.round(powers.frames / 2)
    const band = 13
    expect(mean(powers, band, 2, half - 3) / mean(powers, band, half + 3, powers.frames - 2)).toBeCloseTo(100, -1)
    expect(powers.frames * powers.hop).toBeCloseTo(RATE / 2, -3)
    expect(powers.loudest).toBe(powers.values.reduce((high, value) => Math.max(high, value), 0))
  })

  it('goes by four with twice the amplitude, and is told alike at any rate', () => {
    const hiss = noise(RATE / 2, 3)
    const [once, twice] = [bandPowersOf(heard(hiss), 0, 0.5), bandPowersOf(heard(hiss.map(value => value * 2)), 0, 0.5)]
    for (let band = 0; band < BANDS; band++) expect(mean(twice, band) / mean(once, band)).toBeCloseTo(4, 4)
    const share = (rate: number) => {
      const powers = bandPowersOf(heard(sine(middle(12), rate, rate / 2), rate), 0, 0.5)
      return mean(powers, 12) / Array.from({ length: BANDS }, (_, band) => mean(powers, band)).reduce((sum, power) => sum + power, 0)
    }
    for (const rate of [32_000, 64_000, 96_000]) expect(Math.abs(share(44_100) - share(rate))).toBeLessThan(0.1)
  })

  it('looks no further back than one window before the stretch', () => {
    // 512 frames at this rate, half a window apart.
    const powers = bandPowersOf(heard(sine(1000, RATE, 4800)), 0.05, 0.05)
    expect([powers.fromFrame, powers.hop, powers.frames]).toEqual([2400 - 512, 256, 2])
  })
})
