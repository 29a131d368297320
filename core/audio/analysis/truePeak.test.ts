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

  it('is what plain oversampling gives at every eighth, with nothing passed over, at the ends and with long steps too', () => {
    const { halfWidth, table } = sincKernel(48, 1, 4, 8)
    const at = (channel: Float32Array, sample: number, place: number) => {
      let sum = 0
      for (let tap = 0; tap < halfWidth * 2; tap++) sum += (channel[sample - halfWidth + 1 + tap] ?? 0) * table[place * halfWidth * 2 + tap]!
      return Math.abs(sum)
    }
    const channels = fc.oneof(
      fc.float32Array({ min: -1, max: 1, noNaN: true, minLength: 1, maxLength: 300 }),
      // Bursts and decays, where much is passed over.
      fc.tuple(fc.integer({ min: 200, max: 2000 }), fc.double({ min: 0.9, max: 0.9999, noNaN: true }), fc.double({ min: 0.05, max: 3.1, noNaN: true }), fc.nat(150))
        .map(([length, decay, step, start]) => Float32Array.from({ length }, (_, i) => i < start ? 0 : Math.sin((i - start) * step + start) * decay ** (i - start))),
    )
    fc.assert(fc.property(channels, fc.constantFrom(8000, 48_000, 12_000_000), (channel, rate) => {
      let expected = 0
      channel.forEach((value, i) => {
        expected = Math.max(expected, Math.abs(value))
        if (i + 1 < channel.length) for (let place = 1; place < 8; place++) expected = Math.max(expected, at(channel, i, place))
      })
      expect(truePeak([channel], envelopeOf([channel], rate))).toBeGreaterThanOrEqual(expected * 0.999)
      expect(truePeak([channel], envelopeOf([channel], rate))).toBeLessThan(expected * 1.0001 + 1e-9)
    }), { numRuns: 200 })
  })

  it('finds a peak that lies between two low samples', () => {
    // A tone at a little under Nyquist whose beat is highest between samples: its samples there are about half of it.
    const channel = Float32Array.from({ length: 800 }, (_, i) => Math.exp(-(((i - 399.5) / 60) ** 2)) * Math.cos(2 * Math.PI * 0.36 * (i - 399.5)))
    const samples = Math.max(Math.abs(channel[399]!), Math.abs(channel[400]!))
    expect(samples).toBeLessThan(0.5)
    expect(20 * Math.log10(truePeakOf(channel))).toBeGreaterThan(-0.05)
    // And a tone at a quarter of the rate that swells and dies away, whose highest place lies in the middle between two samples.
    const quarter = Float32Array.from({ length: 400 }, (_, i) => Math.exp(-(((i - 100.5) / 40) ** 2)) * Math.cos(Math.PI / 2 * (i - 100.5)))
    expect(Math.max(...quarter)).toBeLessThan(0.71)
    expect(Math.abs(20 * Math.log10(truePeakOf(quarter)))).toBeLessThan(0.02)
  })
})
