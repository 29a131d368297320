import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sine } from '../../tests/helpers/audio'
import { interpolate, sincKernel } from './sinc'

const kernel = sincKernel(16, 0.95, 9, 256)

describe('band-limited interpolation', () => {
  it('passes a constant unchanged at every place', () => {
    const input = new Float32Array(200).fill(0.5)
    fc.assert(fc.property(fc.double({ min: 40, max: 160, noNaN: true }), (position) => {
      expect(interpolate(input, position, kernel)).toBeCloseTo(0.5, 5)
    }))
  })

  it('reads a sine between its samples with an error below -80 dB', () => {
    const input = sine(1000, 48_000, 2000)
    fc.assert(fc.property(fc.double({ min: 100, max: 1900, noNaN: true }), (position) => {
      const wanted = Math.sin(2 * Math.PI * 1000 * position / 48_000)
      expect(Math.abs(interpolate(input, position, kernel) - wanted)).toBeLessThan(1e-4)
    }))
  })

  it('takes what lies outside the input as silence, and never reads there', () => {
    const input = sine(500, 48_000, 50)
    for (const position of [-1000, -17.5, 0, 49, 60, 5000]) expect(Number.isFinite(interpolate(input, position, kernel))).toBe(true)
    expect(interpolate(input, -100, kernel)).toBe(0)
    expect(interpolate(input, 200, kernel)).toBe(0)
  })

  it('a lower cutoff takes out what would alias: a tone above it is held down by 80 dB', () => {
    const half = sincKernel(32, 0.45, 9, 16)
    const input = sine(20_000, 48_000, 4000)
    let worst = 0
    for (let position = 200; position < 3800; position += 2) worst = Math.max(worst, Math.abs(interpolate(input, position, half)))
    expect(20 * Math.log10(worst)).toBeLessThan(-80)
  })
})
