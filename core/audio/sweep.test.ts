import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { crossingsOf, energiesOfPair, energyOf, meanOfPair, outlineOf, plainPieces, raiseToPeaks, stepEnergiesOf, sumOf, swingsOf } from './sweep'

/** Of lengths that make no fours, and of some that go through the memory in several pieces. */
const channel = fc.oneof(
  fc.array(fc.float({ min: -2, max: 2, noNaN: true }), { maxLength: 200 }).map(values => Float32Array.from(values)),
  fc.integer({ min: 16_000, max: 50_001 }).map(length => Float32Array.from({ length }, (_, i) => Math.sin(i * i))),
)
const stretch = channel.chain(values => fc.tuple(fc.constant(values), fc.nat(values.length), fc.nat(values.length))).map(([values, a, b]) => ({ values, from: Math.min(a, b), to: Math.max(a, b) }))

describe('passes over all samples', () => {
  it('find the highest absolute sample of each step, of the channel or of one before it', () => {
    fc.assert(fc.property(channel, fc.oneof(fc.integer({ min: 1, max: 60 }), fc.constantFrom(5000, 20_000)), fc.float({ min: 0, max: 1, noNaN: true }), (values, step, before) => {
      const peaks = new Float32Array(Math.ceil(values.length / step)).fill(before)
      raiseToPeaks(peaks, values, step)
      peaks.forEach((peak, i) => {
        expect(peak).toBe(values.subarray(i * step, (i + 1) * step).reduce((high, value) => Math.max(high, Math.abs(value)), Math.fround(before)))
      })
    }))
  })

  it('find the lowest and the highest sample of each part over all channels, and never above or below silence', () => {
    fc.assert(fc.property(channel, fc.oneof(fc.integer({ min: 1, max: 5 }), fc.integer({ min: 90, max: 900 })), (values, columns) => {
      const other = values.map(value => -value / 2)
      const outline = outlineOf([values, other], columns)
      expect(outline).toHaveLength(2 * columns)
      for (let column = 0; column < columns; column++) {
        const from = Math.floor(column * values.length / columns)
        const part = values.subarray(from, Math.max(from + 1, Math.floor((column + 1) * values.length / columns)))
        expect(outline[2 * column]).toBeCloseTo(part.reduce((least, value) => Math.min(least, value, -value / 2), 0), 12)
        expect(outline[2 * column + 1]).toBeCloseTo(part.reduce((most, value) => Math.max(most, value, -value / 2), 0), 12)
      }
    }))
  })

  it('count how often the lows swing, early and late', () => {
    fc.assert(fc.property(stretch, fc.nat(300), fc.nat(300), fc.double({ min: 0, max: 0.99, noNaN: true }), ({ values, from, to }, early, late, keep) => {
      let [one, two, side, first, last] = [0, 0, 0, 0, 0]
      values.subarray(from, to).forEach((value, i) => {
        one = one * keep + value * (1 - keep)
        two = two * keep + one * (1 - keep)
        const now = two > 0 ? 1 : -1
        if (now !== side && i < early) first++
        if (now !== side && i >= late) last++
        side = now
      })
      expect(swingsOf(values, keep, from, to, early, late)).toEqual([first, last])
    }))
  })

  it('give a channel back piece by piece, with plain zeros', () => {
    fc.assert(fc.property(channel, (values) => {
      const spoilt = values.map((value, i) => i % 3 === 0 ? -0 : value)
      const pieces: number[] = []
      for (const piece of plainPieces(spoilt)) for (const value of piece) pieces.push(value)
      expect(pieces.length).toBe(values.length)
      expect(pieces.findIndex((piece, i) => !Object.is(piece, spoilt[i] === 0 ? 0 : spoilt[i]))).toBe(-1)
    }), { numRuns: 20 })
  })

  it('count how often a stretch crosses zero', () => {
    fc.assert(fc.property(stretch, ({ values, from, to }) => {
      let crossings = 0
      for (let i = from + 1; i < to; i++) if (values[i]! > 0 !== values[i - 1]! > 0) crossings++
      expect(crossingsOf(values, from, to)).toBe(crossings)
    }))
  })

  it('add up samples and their squares in double precision', () => {
    fc.assert(fc.property(stretch, ({ values, from, to }) => {
      expect(sumOf(values, from, to)).toBeCloseTo(values.subarray(from, to).reduce((sum, value) => sum + value, 0), 8)
      expect(energyOf(values)).toBeCloseTo(values.reduce((sum, value) => sum + value * value, 0), 8)
    }))
    expect(energyOf(new Float32Array(1_000_000).fill(0.1))).toBeCloseTo(1_000_000 * Math.fround(0.1) ** 2, 4)
  })

  it('add up the squares of each step of a stretch over all channels, as well as single precision adds four at a time', () => {
    fc.assert(fc.property(stretch, fc.oneof(fc.integer({ min: 1, max: 100 }), fc.constantFrom(5000, 20_000)), ({ values, from, to }, step) => {
      const energies = stepEnergiesOf([values, values], step, from, to)
      expect(energies).toHaveLength(Math.ceil((to - from) / step))
      energies.forEach((energy, i) => {
        const expected = 2 * values.subarray(from + i * step, Math.min(to, from + (i + 1) * step)).reduce((sum, value) => sum + value * value, 0)
        expect(Math.abs(energy - expected)).toBeLessThanOrEqual(expected * (step / 4 + 4) * 2 ** -24 + 1e-30)
      })
    }))
  })

  it('add up the energies of two channels and their products, and mix them to their mean', () => {
    fc.assert(fc.property(channel, fc.float({ min: -2, max: 2, noNaN: true }), (left, gain) => {
      const right = left.map((value, i) => gain * value + (i % 3) / 10)
      const sums = energiesOfPair(left, right)
      // So far apart 50,000 sums of double precision can be at most, in whatever order they are added.
      const near = 1e-11 * (sums.left + sums.right)
      expect(Math.abs(sums.left - left.reduce((sum, value) => sum + value * value, 0))).toBeLessThanOrEqual(near)
      expect(Math.abs(sums.right - right.reduce((sum, value) => sum + value * value, 0))).toBeLessThanOrEqual(near)
      expect(Math.abs(sums.product - left.reduce((sum, value, i) => sum + value * right[i]!, 0))).toBeLessThanOrEqual(near)
      const farthest = meanOfPair(left, right).reduce((most, mean, i) => Math.max(most, Math.abs(mean - (left[i]! + right[i]!) / 2)), 0)
      expect(farthest).toBeLessThanOrEqual(2 ** -23)
    }))
    expect(meanOfPair(Float32Array.of(3e38, 1), Float32Array.of(3e38, -1))).toEqual(Float32Array.of(3e38, 0))
  })
})
