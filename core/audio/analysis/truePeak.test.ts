import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sincKernel } from '../sinc'
import { envelopeOf } from './envelope'
import { truePeak } from './truePeak'

describe('true peak', () => {
  const truePeakOf = (channel: Float32Array) => truePeak([channel], envelopeOf([channel], 48_000))

  it('finds the top of a sine whose samples miss it: fs/4 at 45 degrees reads 0 dBTP within 0.4 (EBU Tech 3341, cases 15 to 19)', () => {
    for (const [part, degrees] of [[4, 0], [4, 45], [6, 60], [8, 67.5]] as const) {
      const channel = Float32Array.from({ length: 4800 }, (_, i) => {
        const fade = Math.min(1, i / 500, (4800 - i) / 500)
        return fade * 0.5 * Math.sin(2 * Math.PI * i / part + degrees * Math.PI / 180)
      })
      const db = 20 * Math.log10(truePeakOf(channel) / 0.5)
      expect(db).toBeGreaterThan(-0.4)
      expect(db).toBeLessThan(0.2)
    }
  })

  it('is never below the highest sample', () => {
    fc.assert(fc.property(fc.array(fc.float({ min: -1, max: 1, noNaN: true }), { minLength: 1, maxLength: 200 }), (values) => {
      expect(truePeakOf(Float32Array.from(values))).toBeGreaterThanOrEqual(Math.max(...values.map(Math.abs)))
    }))
  })

  it('is what plain oversampling gives beside the samples near the highest, at the ends and with long steps too', () => {
    const { halfWidth, table } = sincKernel(12, 0.97, 6, 4)
    const between = (channel: Float32Array, sample: number) => [1, 2, 3].map((place) => {
      let sum = 0
      for (let tap = 0; tap < halfWidth * 2; tap++) sum += (channel[sample - halfWidth + 1 + tap] ?? 0) * table[place * halfWidth * 2 + tap]!
      return Math.abs(sum)
    })
    const channels = fc.oneof(fc.float32Array({ min: -1, max: 1, noNaN: true, minLength: 1, maxLength: 200 }), fc.integer({ min: 9000, max: 20_000 }).map(length => Float32Array.from({ length }, (_, i) => Math.sin(i * i))))
    fc.assert(fc.property(channels, fc.constantFrom(8000, 48_000, 12_000_000), (channel, rate) => {
      const envelope = envelopeOf([channel], rate)
      let expected = envelope.peak
      channel.forEach((value, i) => {
        const here = Math.abs(value)
        if (here < envelope.peak * 0.7 || here < Math.abs(channel[i - 1] ?? 0) || here < Math.abs(channel[i + 1] ?? 0)) return
        if (i > 0) expected = Math.max(expected, ...between(channel, i - 1))
        if (i + 1 < channel.length) expected = Math.max(expected, ...between(channel, i))
      })
      expect(Math.abs(truePeak([channel], envelope) - expected)).toBeLessThan(1e-5)
    }), { numRuns: 60 })
  })
})
