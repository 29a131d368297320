import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Random } from '../../../demo/synth/dsp'
import { anyStruck, struck, STRUCK_NAMES, STRUCK_RATE as RATE, variantOf } from '../../../tests/helpers/struck'
import { resample } from '../resample'
import { FEATURES, FEATURE_NAMES } from './features'
import { measure } from './figures'
import { featureDistance, NEAR_DISTANCE, signatures } from './sameness'

const features = (samples: Float32Array, rate = RATE) => measure([samples], rate).features!

describe('the vector of a sound', () => {
  it('has a name for each of its values', () => {
    expect(FEATURE_NAMES.length).toBe(FEATURES)
    expect(new Set(FEATURE_NAMES).size).toBe(FEATURES)
    expect(features(struck('kick', 1)).length).toBe(FEATURES)
  })

  it('is hardly changed by level, by silence in front, by hiss 70 dB below', () => {
    fc.assert(fc.property(anyStruck, fc.nat(500), fc.double({ min: 0.05, max: 1, noNaN: true }), fc.integer({ min: 0, max: 9600 }), (name, seed, gain, lead) => {
      const samples = struck(name, seed)
      const random = new Random(seed)
      const other = variantOf(samples, gain, lead, 1, RATE).map(value => value + gain * 3e-4 * random.noise())
      expect(featureDistance(features(samples), features(other))).toBeLessThan(NEAR_DISTANCE)
    }), { numRuns: 40 })
  })
})

describe('the vector of several hits', () => {
  it('is that of the first, whatever follows it', () => {
    fc.assert(fc.property(anyStruck, anyStruck, fc.nat(500), (name, next, seed) => {
      const first = struck(name, seed).subarray(0, 0.6 * RATE)
      const both = new Float32Array(1.4 * RATE)
      both.set(first)
      struck(next, seed + 1).subarray(0, 0.7 * RATE).forEach((value, i) => both[0.7 * RATE + i]! += value)
      const measured = measure([both], RATE)
      fc.pre(measured.figures.hits.length > 1)
      expect(featureDistance(features(first), measured.features!)).toBeLessThan(NEAR_DISTANCE / 3)
    }), { numRuns: 20 })
  })
})

describe('the vector of a sound at rates between the usual ones', () => {
  it.each([32_000, 64_000])('%d Hz: it is nearly the same, however late it begins', (rate) => {
    fc.assert(fc.property(anyStruck, fc.nat(500), fc.double({ min: 0, max: 3, noNaN: true }), (name, seed, lead) => {
      const [low] = resample([struck(name, seed)], RATE, 32_000)
      const late = new Float32Array(Math.round(lead * 32_000) + low!.length)
      late.set(low!, late.length - low!.length)
      const [usual, other] = [resample([late], 32_000, 44_100)[0]!, resample([late], 32_000, rate)[0]!]
      expect(featureDistance(features(usual, 44_100), features(other, rate))).toBeLessThan(NEAR_DISTANCE / 2)
      // Hats that end just where a body begins, or where a pitch can just be found.
    }), { numRuns: 20, examples: [['closedHat', 50, 0], ['closedHat', 11, 0], ['closedHat', 33, 0], ['closedHat', 54, 0]] })
  })
})

describe('a copy of a recording', () => {
  it('at another level, rate and length lies near it', () => {
    fc.assert(fc.property(anyStruck, fc.nat(500), fc.double({ min: 0.1, max: 1, noNaN: true }), fc.integer({ min: 0, max: 4800 }), fc.constantFrom(32_000, 44_100, 48_000, 96_000), (name, seed, gain, lead, rate) => {
      const samples = struck(name, seed)
      expect(featureDistance(features(samples), features(variantOf(samples, gain, lead, 0.85, rate), rate))).toBeLessThan(NEAR_DISTANCE)
    }), { numRuns: 30 })
  })
})

describe('signatures', () => {
  it('near vectors meet in some table, far ones seldom do', () => {
    const all = Array.from({ length: 200 }, (_, i) => features(struck(STRUCK_NAMES[i % STRUCK_NAMES.length]!, i)))
    const centre = Float64Array.from({ length: FEATURES }, (_, i) => all.reduce((sum, vector) => sum + vector[i]!, 0) / all.length)
    let met = 0
    let chance = 0
    all.forEach((vector, i) => {
      const near = vector.map((value, k) => Math.max(0, Math.min(255, value + (k % 7 === i % 7 ? 6 : 0))))
      const [one, two, far] = [signatures(vector, centre), signatures(near, centre), signatures(all[(i + 1) % all.length]!, centre)]
      if (one.some((signature, table) => signature === two[table])) met++
      if (one.some((signature, table) => signature === far[table])) chance++
    })
    expect(met).toBeGreaterThan(190)
    expect(chance).toBeLessThan(20)
  })
})
