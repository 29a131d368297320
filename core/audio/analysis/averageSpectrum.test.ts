import { describe, expect, it } from 'vitest'
import { averageSpectrum, edge } from './averageSpectrum'

const sine = (hz: number, rate: number, seconds = 1) => Float32Array.from({ length: seconds * rate }, (_, i) => Math.sin(2 * Math.PI * hz * i / rate))

describe('an average spectrum', () => {
  it.each([[100, 44_100], [1000, 44_100], [1000, 48_000], [8000, 48_000]])('of a sine at %s Hz and a rate of %s is strongest in its band', (hz, rate) => {
    const bands = averageSpectrum([sine(hz, rate)], rate)
    const strongest = bands.indexOf(0)
    expect(edge(strongest)).toBeLessThanOrEqual(hz * 1.06)
    expect(edge(strongest + 1)).toBeGreaterThanOrEqual(hz / 1.06)
    expect(bands.filter(value => value > -30).length).toBeLessThan(12)
  })

  it('tells two tones by their levels', () => {
    const [low, high] = [sine(200, 44_100), sine(4000, 44_100)]
    const bands = averageSpectrum([low.map((value, i) => value + 0.1 * high[i]!)], 44_100)
    // A tone lies in several narrow bands: what counts is their sum.
    const around = (hz: number) => bands.reduce((sum, db, band) => Math.abs(Math.log2(edge(band + 0.5) / hz)) < 0.5 ? sum + 10 ** (db / 10) : sum, 0)
    expect(10 * Math.log10(around(4000) / around(200))).toBeCloseTo(-20, 1)
  })

  it('knows nothing above half the rate, and nothing of silence', () => {
    expect(averageSpectrum([sine(1000, 16_000)], 16_000).at(-1)).toBe(Number.NEGATIVE_INFINITY)
    expect(averageSpectrum([new Float32Array(4000)], 44_100).every(value => value === Number.NEGATIVE_INFINITY)).toBe(true)
  })
})
