import { create, ConverterType } from '@alexanderolsen/libsamplerate-js'
import { describe, expect, it } from 'vitest'
import { toDb } from './level'
import { resample } from './resample'

const EDGE = 2000

function sine(hz: number, rate: number, frames: number): Float32Array {
  return Float32Array.from({ length: frames }, (_, i) => 0.5 * Math.sin(2 * Math.PI * hz * i / rate))
}

function worst(actual: Float32Array, wanted: Float32Array): number {
  let error = 0
  for (let i = EDGE; i < Math.min(actual.length, wanted.length) - EDGE; i++) error = Math.max(error, Math.abs(actual[i]! - wanted[i]!))
  return error
}

// Values: references.md, "resampling".
describe('resampling', () => {
  it('carries a 1 kHz sine from 44.1 to 48 kHz with an error below -100 dB', () => {
    const [out] = resample([sine(1000, 44_100, 44_100)], 44_100, 48_000)
    expect(out!.length).toBe(48_000)
    expect(toDb(worst(out!, sine(1000, 48_000, 48_000)) / 0.5)).toBeLessThan(-100)
  })

  it('carries a 1 kHz sine between every pair of common rates', () => {
    const rates = [22_050, 32_000, 44_100, 48_000, 88_200, 96_000]
    for (const from of rates) {
      for (const to of rates) {
        const [out] = resample([sine(1000, from, from / 2)], from, to)
        expect(toDb(worst(out!, sine(1000, to, to / 2)) / 0.5), `${from} to ${to}`).toBeLessThan(-90)
      }
    }
  })

  it('rejects a tone above the new Nyquist frequency by 90 dB', () => {
    const [out] = resample([sine(30_000, 96_000, 96_000)], 96_000, 44_100)
    expect(toDb(worst(out!, new Float32Array(44_100)) / 0.5)).toBeLessThan(-90)
  })

  it('agrees with libsamplerate (reference library) on a sum of sines', async () => {
    const input = sine(440, 44_100, 44_100).map((value, i) => value * 0.5 + 0.2 * Math.sin(2 * Math.PI * 9000 * i / 44_100))
    const reference = await create(1, 44_100, 48_000, { converterType: ConverterType.SRC_SINC_BEST_QUALITY })
    const wanted = reference.full(input)
    const [out] = resample([input], 44_100, 48_000)
    expect(toDb(worst(out!, wanted))).toBeLessThan(-90)
  })

  it('gives the same arrays back where the rates are equal, and works for rates without a common divisor', () => {
    const input = sine(1000, 44_101, 20_000)
    expect(resample([input], 48_000, 48_000)[0]).toBe(input)
    const [out] = resample([input], 44_101, 48_000)
    expect(toDb(worst(out!, sine(1000, 48_000, 21_768)) / 0.5)).toBeLessThan(-70)
  })
})
