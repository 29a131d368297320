import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { flatnessOf } from './flatness'

describe('flatness of a spectrum', () => {
  it('is the geometric over the arithmetic mean, however large or small the powers are', () => {
    const powers = fc.array(fc.float({ min: 0, max: Math.fround(1e30), noNaN: true }), { minLength: 1, maxLength: 300 }).map(values => Float32Array.from(values))
    fc.assert(fc.property(powers, (power) => {
      const sum = power.reduce((all, value) => all + value, 0)
      const geometric = Math.exp(power.reduce((all, value) => all + Math.log(value + 1e-20), 0) / power.length)
      const flatness = flatnessOf(power, 0, power.length, 1e-20)
      expect(Math.abs(flatness - (sum > 0 ? Math.min(1, geometric / (sum / power.length)) : 0))).toBeLessThan(1e-9)
    }))
  })

  it('is 1 of equal powers, near 0 of a single line, 0 of nothing, and counts only what lies within the stretch', () => {
    expect(flatnessOf(new Float32Array(100).fill(3), 0, 100, 1e-20)).toBeCloseTo(1, 9)
    expect(flatnessOf(Float32Array.from({ length: 100 }, (_, i) => i === 50 ? 1 : 0), 0, 100, 1e-20)).toBeLessThan(1e-6)
    expect(flatnessOf(new Float32Array(100), 0, 100, 1e-20)).toBe(0)
    expect(flatnessOf(Float32Array.of(1, 2, 2, 2, 9), 1, 4, 0)).toBeCloseTo(1, 9)
  })
})
