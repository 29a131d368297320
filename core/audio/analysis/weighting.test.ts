import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { kWeighting, weightedSteps } from './weighting'

describe('K-weighting', () => {
  it('is the table of the recommendation at 48 kHz (ITU-R BS.1770-4, annex 1, tables 1 and 2; from memory)', () => {
    const [shelf, highPass] = kWeighting(48_000)
    expect(shelf.b0).toBeCloseTo(1.53512485958697, 6)
    expect(shelf.b1).toBeCloseTo(-2.69169618940638, 6)
    expect(shelf.b2).toBeCloseTo(1.19839281085285, 6)
    expect(shelf.a1).toBeCloseTo(-1.69065929318241, 6)
    expect(shelf.a2).toBeCloseTo(0.73248077421585, 6)
    expect(highPass.a1).toBeCloseTo(-1.99004745483398, 6)
    expect(highPass.a2).toBeCloseTo(0.99007225036621, 6)
  })

  it('sums up what plain code gives, for any step, over channels and pieces', () => {
    const filtered = (channel: Float32Array, rate: number) => {
      let values = Float64Array.from(channel)
      for (const { b0, b1, b2, a1, a2 } of kWeighting(rate)) {
        const out = new Float64Array(values.length)
        for (let i = 0; i < out.length; i++) {
          out[i] = b0 * values[i]! + b1 * (values[i - 1] ?? 0) + b2 * (values[i - 2] ?? 0) - a1 * (out[i - 1] ?? 0) - a2 * (out[i - 2] ?? 0)
        }
        values = out
      }
      return values
    }
    const lengths = fc.oneof(fc.nat(2000), fc.integer({ min: 16_000, max: 50_001 }))
    fc.assert(fc.property(lengths, fc.integer({ min: 1, max: 3 }), fc.constantFrom(8000, 44_100, 96_000), fc.constantFrom(0.0001, 0.003, 0.01, 0.4), (length, count, rate, stepSeconds) => {
      const channels = Array.from({ length: count }, (_, c) => Float32Array.from({ length }, (_, i) => Math.sin(i * i * (c + 1)) * 0.5 + 0.2))
      const { sums, framesPerStep } = weightedSteps(channels, rate, stepSeconds)
      expect(sums.length).toBe(Math.ceil(length / framesPerStep))
      const heard = channels.slice(0, 2).map(channel => filtered(channel, rate))
      sums.forEach((sum, step) => {
        const plain = heard.flatMap(values => [...values.subarray(step * framesPerStep, (step + 1) * framesPerStep)]).reduce((all, value) => all + value * value, 0)
        expect(Math.abs(sum - plain)).toBeLessThan(1e-6 * Math.max(1, plain))
      })
    }), { numRuns: 30 })
  })
})
