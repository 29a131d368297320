import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bandLevelsOf } from './bandLevels'
import { BANDS, type BandPowers } from './bands'

/** Powers over twelve decades, silence among them; some sounds are longer than what the memory holds at first. */
const power = fc.oneof(fc.constant(0), fc.double({ min: -9, max: 3, noNaN: true }).map(exponent => 10 ** exponent))
const powers = fc.tuple(fc.oneof(fc.integer({ min: 1, max: 40 }), fc.constant(1500)), fc.array(power, { minLength: BANDS, maxLength: 7 * BANDS }))
  .map(([frames, some]): BandPowers => {
    const values = Float32Array.from({ length: frames * BANDS }, (_, i) => some[i % some.length]!)
    return { values, frames, loudest: Math.max(1e-6, ...some.map(Math.fround)), fromFrame: 0, hop: 256, sampleRate: 44_100 }
  })

const meanOfHighest = (values: readonly number[], kept: number) => values.toSorted((a, b) => b - a).slice(0, kept).reduce((sum, value) => sum + value, 0) / kept

describe('levels of bands', () => {
  it('and their rises are those of plain code', () => {
    fc.assert(fc.property(powers, fc.integer({ min: 20, max: 90 }), (sound, rangeDb) => {
      const levels = bandLevelsOf(sound, rangeDb)
      const floor = sound.loudest * 10 ** (-rangeDb / 10)
      const row = (frame: number) => [...sound.values.subarray(frame * BANDS, (frame + 1) * BANDS)].map(value => Math.log(1 + value / floor) / Math.log(1 + sound.loudest / floor))
      expect(levels.flux).toHaveLength(sound.frames)
      expect(levels.flux[0]).toBe(0)
      for (let frame = 1; frame < Math.min(50, sound.frames); frame++) {
        const [before, now] = [row(frame - 1), row(frame)]
        expect(levels.flux[frame]).toBeCloseTo(meanOfHighest(now.map((level, band) => Math.max(0, level - before[band]!)), 6), 5)
        expect(levels.meanOfHighest(frame, 0, BANDS, 1)).toBeCloseTo(Math.max(...now), 5)
        expect(levels.meanOfHighest(frame, 7, 14, 4)).toBeCloseTo(meanOfHighest(now.slice(7, 14), 4), 5)
        expect(levels.meanOfHighest(frame, 18, BANDS, 4)).toBeCloseTo(meanOfHighest(now.slice(18), 2), 5)
      }
    }), { numRuns: 40 })
  })

  it('of no frames have no flux', () => {
    expect(bandLevelsOf({ values: new Float32Array(0), frames: 0, loudest: 0, fromFrame: 0, hop: 256, sampleRate: 44_100 }, 45).flux).toHaveLength(0)
  })
})
