import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sine, spectrumOf } from '../../../tests/helpers/audio'
import { fftOf, hannWindow, RealFft } from './fft'

/** The transform by its definition, slow and plain. */
function definition(values: readonly number[]): number[] {
  const size = values.length
  return Array.from({ length: size / 2 }, (_, bin) => {
    let re = 0
    let im = 0
    values.forEach((value, i) => {
      re += value * Math.cos(2 * Math.PI * bin * i / size)
      im -= value * Math.sin(2 * Math.PI * bin * i / size)
    })
    return re * re + im * im
  })
}

const samples = (length: number) => fc.array(fc.float({ min: -1, max: 1, noNaN: true }), { minLength: length, maxLength: length })
const open = (size: number) => new Float64Array(size).fill(1)

describe('the transform', () => {
  it('is the discrete Fourier transform by its definition, for both stretches at once', () => {
    fc.assert(fc.property(fc.constantFrom(4, 8, 32, 64), samples(128), (size, values) => {
      const input = Float32Array.from(values)
      const [first, second] = [new Float64Array(size / 2), new Float64Array(size / 2)]
      fftOf(size).powerOfTwo(input, 3, 40, open(size), first, second)
      for (const [from, power] of [[3, first], [40, second]] as const) {
        definition([...input.subarray(from, from + size)]).forEach((wanted, bin) => expect(power[bin]!).toBeCloseTo(wanted, 4))
      }
    }), { numRuns: 60 })
  })

  it('of one stretch gives what it gives for two, wherever the stretch lies and however long its window is', () => {
    fc.assert(fc.property(fc.constantFrom(8, 32, 64), fc.integer({ min: -70, max: 140 }), fc.integer({ min: 1, max: 64 }), samples(128), (size, from, frames, values) => {
      const input = Float32Array.from(values)
      const [alone, first, second] = [new Float64Array(size / 2), new Float64Array(size / 2), new Float64Array(size / 2)]
      fftOf(size).power(input, from, hannWindow(frames), alone)
      fftOf(size).powerOfTwo(input, from, 3, hannWindow(frames), first, second)
      alone.forEach((value, bin) => expect(value).toBeCloseTo(first[bin]!, 6))
    }))
  })

  it('takes what lies before or after the input as silence', () => {
    const size = 32
    const input = Float32Array.from({ length: 10 }, (_, i) => Math.sin(i + 1))
    const [early, late] = [new Float64Array(size / 2), new Float64Array(size / 2)]
    fftOf(size).powerOfTwo(input, -5, 4, open(size), early, late)
    const padded = (from: number) => Array.from({ length: size }, (_, i) => input[from + i] ?? 0)
    definition(padded(-5)).forEach((wanted, bin) => expect(early[bin]!).toBeCloseTo(wanted, 6))
    definition(padded(4)).forEach((wanted, bin) => expect(late[bin]!).toBeCloseTo(wanted, 6))
  })

  it('puts a sine of a whole number of periods into its own line', () => {
    const size = 1024
    const power = new Float64Array(size / 2)
    fftOf(size).powerOfTwo(sine(37 * 48_000 / size, 48_000, size), 0, 0, open(size), power, new Float64Array(size / 2))
    expect(power.indexOf(Math.max(...power))).toBe(37)
    expect(power[37]!).toBeCloseTo((size / 2) ** 2, -1)
    for (const bin of [0, 10, 36, 38, 100]) expect(power[bin]!).toBeLessThan(1e-3)
  })

  it('agrees with the tests\' own transform on a long windowed tone', () => {
    const channel = sine(1234.5, 44_100, 16_384, 0.7)
    const size = 16_384
    const power = new Float64Array(size / 2)
    fftOf(size).powerOfTwo(channel, 0, 0, hannWindow(size), power, new Float64Array(size / 2))
    const strongest = spectrumOf(channel, 44_100).toSorted((a, b) => b.power - a.power)[0]!
    expect(power.indexOf(Math.max(...power)) * 44_100 / size).toBeCloseTo(strongest.hz, 6)
  })

  it('is made for powers of two alone', () => {
    for (const size of [0, 1, 3, 1000]) expect(() => new RealFft(size)).toThrow(/power of two/)
    expect(fftOf(256)).toBe(fftOf(256))
  })
})

describe('the Hann window', () => {
  it('has a mean of 1, is highest in the middle and falls to nothing at both ends', () => {
    for (const frames of [16, 255, 4410]) {
      const window = hannWindow(frames)
      expect(window.reduce((sum, value) => sum + value, 0) / frames).toBeCloseTo(1, 9)
      expect(window[0]!).toBeLessThan(0.02)
      expect(window[frames >> 1]!).toBeGreaterThan(1.97)
    }
  })
})
