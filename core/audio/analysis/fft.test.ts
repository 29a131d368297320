import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sine, spectrumOf } from '../../../tests/helpers/audio'
import { fftOf, hannWindow, RealFft, STRETCHES } from './fft'

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
const open = (size: number) => new Float32Array(size).fill(1)
/** One of the stretches that were transformed at once. */
const stretch = (powers: Float32Array, which: number) => powers.filter((_, i) => i % STRETCHES === which)

describe('the transform', () => {
  it('is the discrete Fourier transform by its definition, for all stretches at once', () => {
    fc.assert(fc.property(fc.constantFrom(16, 32, 64, 128), fc.array(fc.integer({ min: 0, max: 72 }), { minLength: 1, maxLength: STRETCHES }), samples(200), (size, starts, values) => {
      const input = Float32Array.from(values)
      const powers = fftOf(size).powers(input, starts, open(size))
      expect(powers).toHaveLength(size / 2 * STRETCHES)
      starts.forEach((from, i) => {
        const found = stretch(powers, i)
        definition([...input.subarray(from, from + size)]).forEach((wanted, bin) => expect(found[bin]! - wanted).toBeCloseTo(0, 2))
      })
    }), { numRuns: 60 })
  })

  it('of one stretch is that as well, wherever it lies and however long its window is', () => {
    fc.assert(fc.property(fc.constantFrom(16, 32, 64, 128), fc.integer({ min: -140, max: 210 }), fc.integer({ min: 1, max: 128 }), samples(200), (size, from, frames, values) => {
      const input = Float32Array.from(values)
      const window = hannWindow(frames)
      const wanted = definition(Array.from({ length: size }, (_, i) => (input[from + i] ?? 0) * (window[i] ?? 0)))
      const alone = fftOf(size).power(input, from, window)
      expect(alone).toHaveLength(size / 2)
      wanted.forEach((value, bin) => expect(alone[bin]! - value).toBeCloseTo(0, 2))
      const among = stretch(fftOf(size).powers(input, [3, from], window), 1)
      wanted.forEach((value, bin) => expect(among[bin]! - value).toBeCloseTo(0, 2))
    }))
  })

  it('sums up stretches', () => {
    fc.assert(fc.property(fc.array(fc.integer({ min: -20, max: 220 }), { maxLength: STRETCHES }), samples(200), (starts, values) => {
      const input = Float32Array.from(values)
      const powers = fftOf(64).powers(input, starts, hannWindow(64)).slice()
      fftOf(64).powerOfAll(input, starts, hannWindow(64)).forEach((value, bin) => {
        expect(value - powers.subarray(bin * STRETCHES, (bin + 1) * STRETCHES).reduce((sum, one) => sum + one, 0)).toBeCloseTo(0, 2)
      })
    }))
  })

  it('sums up lines in bands, of stretches that follow each other', () => {
    fc.assert(fc.property(fc.array(fc.tuple(fc.integer({ min: 0, max: 32 }), fc.integer({ min: 0, max: 32 })), { minLength: 1, maxLength: 32 }), samples(200), (edges, values) => {
      const input = Float32Array.from(values)
      const powers = fftOf(64).powers(input, Array.from({ length: STRETCHES }, (_, i) => i * 25 - 30), hannWindow(64)).slice()
      const bands = fftOf(64).bands(input, -30, 25, hannWindow(64), Int32Array.from(edges.flat()))
      edges.forEach(([from, to], band) => {
        for (let i = 0; i < STRETCHES; i++) {
          const wanted = stretch(powers, i).subarray(from, to).reduce((sum, value) => sum + value, 0)
          expect(bands[band * STRETCHES + i]! - wanted).toBeCloseTo(0, 2)
        }
      })
    }))
  })

  it('leaves nothing of the stretches before, where there are fewer', () => {
    const fft = fftOf(64)
    fft.powers(sine(5000, 48_000, 64), Array.from({ length: STRETCHES }, () => 0), open(64))
    const powers = fft.powers(sine(5000, 48_000, 64), [0], open(64))
    for (let i = 1; i < STRETCHES; i++) expect(Math.max(...stretch(powers, i))).toBeLessThan(1e-6)
    expect(Math.max(...stretch(powers, 0))).toBeGreaterThan(100)
  })

  it('takes what lies before or after the input as silence', () => {
    const size = 32
    const input = Float32Array.from({ length: 10 }, (_, i) => Math.sin(i + 1))
    const powers = fftOf(size).powers(input, [-5, 4, 40, -60], open(size))
    const padded = (from: number) => Array.from({ length: size }, (_, i) => input[from + i] ?? 0)
    definition(padded(-5)).forEach((wanted, bin) => expect(stretch(powers, 0)[bin]!).toBeCloseTo(wanted, 4))
    definition(padded(4)).forEach((wanted, bin) => expect(stretch(powers, 1)[bin]!).toBeCloseTo(wanted, 4))
    expect(Math.max(...stretch(powers, 2), ...stretch(powers, 3))).toBe(0)
  })

  it('puts a sine of a whole number of periods into its own line, and next to nothing into the others', () => {
    for (const size of [512, 1024, 2048, 4096]) {
      const tone = sine(37 * 48_000 / size, 48_000, size)
      for (const power of [fftOf(size).power(tone, 0, open(size)).slice(), stretch(fftOf(size).powers(tone, [0, 0, 0, 0, 0, 0], open(size)), 5)]) {
        expect(power.indexOf(Math.max(...power))).toBe(37)
        expect(power[37]! / (size / 2) ** 2).toBeCloseTo(1, 4)
        // Single precision: 120 dB below it and less.
        for (const bin of [0, 10, 36, 38, 100, size / 4, size / 2 - 1]) expect(power[bin]! / power[37]!).toBeLessThan(1e-12)
      }
    }
  })

  it('agrees with the tests\' own transform on a long windowed tone', () => {
    const channel = sine(1234.5, 44_100, 16_384, 0.7)
    const size = 16_384
    const strongest = spectrumOf(channel, 44_100).toSorted((a, b) => b.power - a.power)[0]!
    for (const power of [fftOf(size).power(channel, 0, hannWindow(size)).slice(), stretch(fftOf(size).powers(channel, [0], hannWindow(size)), 0)]) {
      expect(power.indexOf(Math.max(...power)) * 44_100 / size).toBeCloseTo(strongest.hz, 6)
    }
  })

  it('takes no more than eight stretches and 32 bands at once', () => {
    expect(() => fftOf(64).bands(new Float32Array(64), 0, 32, open(64), new Int32Array(66))).toThrow(/up to 32/)
    expect(() => fftOf(64).bands(new Float32Array(64), 0, 65, open(64), new Int32Array(2))).toThrow(/at most their own length apart/)
    expect(() => fftOf(64).powers(new Float32Array(64), Array.from({ length: STRETCHES + 1 }, () => 0), open(64))).toThrow(/Up to 8/)
  })

  it('is made for powers of two alone', () => {
    for (const size of [0, 1, 3, 8, 1000]) expect(() => new RealFft(size)).toThrow(/power of two/)
    expect(fftOf(256)).toBe(fftOf(256))
  })
})

describe('the Hann window', () => {
  it('has a mean of 1, is highest in the middle and falls to nothing at both ends', () => {
    for (const frames of [16, 255, 4410]) {
      const window = hannWindow(frames)
      expect(window.reduce((sum, value) => sum + value, 0) / frames).toBeCloseTo(1, 6)
      expect(window[0]!).toBeLessThan(0.02)
      expect(window[frames >> 1]!).toBeGreaterThan(1.97)
    }
  })
})
