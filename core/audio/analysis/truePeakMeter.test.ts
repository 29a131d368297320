import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { envelopeOf } from './envelope'
import { truePeak } from './truePeak'
import { TruePeakMeter } from './truePeakMeter'

describe('the true peak of what comes block by block', () => {
  it('is that of the whole, however it is cut', () => {
    const whole = fc.tuple(fc.integer({ min: 1, max: 12_000 }), fc.double({ min: 0.01, max: 3.1, noNaN: true }), fc.nat(12_000))
      .map(([length, step, loud]) => Float32Array.from({ length }, (_, i) => (i > loud && i < loud + 40 ? 1 : 0.2) * Math.sin(i * step)))
    fc.assert(fc.property(whole, fc.array(fc.integer({ min: 1, max: 5000 }), { minLength: 1, maxLength: 6 }), (channel, sizes) => {
      const meter = new TruePeakMeter(2, 0)
      const silent = new Float32Array(channel.length)
      for (let at = 0, i = 0; at < channel.length; at += sizes[i++ % sizes.length]!) {
        const size = sizes[i % sizes.length]!
        meter.add([silent.subarray(at, at + size), channel.subarray(at, at + size)])
      }
      const expected = truePeak([channel], envelopeOf([channel], 44_100))
      expect(meter.finish()).toBeCloseTo(expected, 4)
    }), { numRuns: 60 })
  })

  it('tells nothing below its floor, and all above it', () => {
    const quiet = new TruePeakMeter(1, 0.9)
    quiet.add([Float32Array.from({ length: 9000 }, (_, i) => 0.5 * Math.sin(i))])
    expect(quiet.finish()).toBe(0.9)
    const loud = new TruePeakMeter(1, 0.9)
    // Its samples stay at 0.8; between them it reaches 1.13.
    loud.add([Float32Array.from({ length: 9000 }, (_, i) => 0.8 * Math.SQRT2 * Math.sin(Math.PI / 2 * i + Math.PI / 4) * Math.min(1, i / 500, (9000 - i) / 500))])
    expect(loud.finish()).toBeCloseTo(1.131, 2)
  })
})
