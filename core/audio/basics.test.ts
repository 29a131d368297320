import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { rmsOf } from '../../tests/helpers/audio'
import { tpdfDither } from './dither'
import { fromDb, toDb } from './level'
import { waveformOverview } from './overview'
import { readWave } from './wave/read'
import { writeWave } from './wave/write'

describe('level', () => {
  it('turns decibels into amplitude and back: -6.02 dB is half (common textbook result)', () => {
    expect(fromDb(-6.0206)).toBeCloseTo(0.5, 5)
    fc.assert(fc.property(fc.double({ min: -120, max: 24, noNaN: true }), (db) => {
      expect(toDb(fromDb(db))).toBeCloseTo(db, 9)
    }))
  })
})

describe('dither', () => {
  it('rounding with TPDF dither of 2 LSB peak to peak leaves an error of LSB/2 RMS, whatever the signal (references.md)', () => {
    for (const level of [0, 0.3, 0.00001]) {
      const frames = 200_000
      const signal = Float32Array.from({ length: frames }, (_, i) => level * Math.sin(i * 0.01))
      const [written] = readWave(writeWave([signal], 48_000, { depth: 16, dither: tpdfDither(5) })).channels
      const error = rmsOf(written!.map((value, i) => value - signal[i]!)) * 2 ** 15
      expect(error).toBeGreaterThan(0.49)
      expect(error).toBeLessThan(0.51)
    }
  })
})

describe('waveform overview', () => {
  it('never shows less than the sound has', () => {
    fc.assert(fc.property(fc.array(fc.float({ min: -1, max: 1, noNaN: true }), { minLength: 1, maxLength: 300 }), fc.integer({ min: 1, max: 50 }), (values, columns) => {
      const outline = waveformOverview([Float32Array.from(values)], columns)
      expect(Math.max(...outline)).toBeGreaterThanOrEqual(Math.floor(Math.max(0, ...values) * 127))
      expect(Math.min(...outline)).toBeLessThanOrEqual(Math.ceil(Math.min(0, ...values) * 127))
      expect(outline.length).toBe(columns * 2)
    }))
  })
})
