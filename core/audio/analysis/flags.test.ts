import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sine } from '../../../tests/helpers/audio'
import { tpdfDither } from '../dither'
import { envelopeOf } from './envelope'
import { channelsAre, clippingOf, dcOffset, isFullScale, isSilent } from './flags'

const TOP = 32_767 / 32_768
const clipping = (channels: readonly Float32Array[]) => clippingOf(channels, envelopeOf(channels, 44_100))
const wave = (length = 4000, level = 0.5) => sine(100, 44_100, length, level)

describe('clipping', () => {
  it('counts runs at full scale of either sign, each once however long', () => {
    expect(clipping([Float32Array.from([0, TOP, TOP, TOP, 0, -1, -1, 0, TOP, 0])]).runs).toBe(2)
    expect(clipping([Float32Array.from([TOP, 0, TOP, 0, TOP]), Float32Array.from([1, 1, 0, 0, 0])]).runs).toBe(1)
    expect(clipping([wave()])).toEqual({ runs: 0, isClipped: false })
  })

  it('counts each run once, wherever it lies', () => {
    const stretches = fc.array(fc.tuple(fc.integer({ min: 2, max: 120 }), fc.integer({ min: 1, max: 200 })), { maxLength: 20 })
    fc.assert(fc.property(stretches, (runs) => {
      const channel = Float32Array.from(runs.flatMap(([full, quiet]) => [...Array<number>(full).fill(-1), ...Array<number>(quiet).fill(0.2)]))
      expect(clipping([channel.map(() => 0), channel]).runs).toBe(runs.length)
    }))
  })

  it('a sine driven over full scale is cut once at every top and bottom', () => {
    const driven = sine(100, 48_000, 48_000, 2).map(value => Math.max(-1, Math.min(TOP, value)))
    expect(clipping([driven])).toEqual({ runs: 200, isClipped: true })
  })

  /** A struck tone of which only the first top is near full scale, as steps of so many bits, cut off where they end. */
  const struck = (hz: number, level: number, bits: number) => {
    const steps = 2 ** (bits - 1)
    return Float32Array.from({ length: 20_000 }, (_, i) => {
      const value = level * Math.exp(-i / 44_100 * hz * 0.9) * Math.sin(2 * Math.PI * hz * i / 44_100)
      return Math.max(-steps, Math.min(steps - 1, Math.round(value * steps))) / steps
    })
  }
  const pitches = fc.double({ min: 30, max: 600, noNaN: true })

  it('a single top that was cut off is one, of whatever depth of bits', () => {
    fc.assert(fc.property(pitches, fc.double({ min: 1.6, max: 1.9, noNaN: true }), fc.constantFrom(16, 24), (hz, level, bits) => {
      expect(clipping([struck(hz, level, bits)])).toEqual({ runs: 1, isClipped: true })
    }), { numRuns: 100 })
  })

  it('a top that just reaches full scale is none, though it lies flat in coarse steps', () => {
    fc.assert(fc.property(pitches, fc.constantFrom(8, 16, 24), (hz, bits) => {
      const highest = Math.max(...struck(hz, 0.5, 24))
      expect(clipping([struck(hz, 0.5 / highest, bits)]).isClipped).toBe(false)
    }), { numRuns: 200 })
  })

  it('full scale is what 16 bits can hold at most, and what lies above', () => {
    expect([0.99, TOP, 1, 1.4].map(isFullScale)).toEqual([false, true, true, true])
  })
})

describe('silence', () => {
  it('is below -90 dBFS', () => {
    expect([0, 10 ** (-91 / 20), 10 ** (-89 / 20), 1].map(isSilent)).toEqual([true, true, false, false])
  })
})

describe('DC offset', () => {
  it('is found with its sign beside any sound', () => {
    fc.assert(fc.property(fc.double({ min: 0.02, max: 0.4, noNaN: true }), fc.boolean(), (size, isNegative) => {
      const offset = isNegative ? -size : size
      const found = dcOffset([wave(44_100, 0.3), wave(44_100, 0.3).map(value => value + offset)])
      expect(found).toBeCloseTo(offset, 2)
    }), { numRuns: 30 })
  })

  it('is not seen in a bass drum that swings long to one side', () => {
    const kick = Float32Array.from({ length: 20_000 }, (_, i) => Math.exp(-i / 3000) * Math.sin(2 * Math.PI * 45 * i / 44_100 + 0.5))
    expect(dcOffset([kick])).toBe(0)
    expect(dcOffset([new Float32Array(3)])).toBe(0)
  })
})

describe('two channels', () => {
  it('are the same, opposite or each its own, at whatever level', () => {
    fc.assert(fc.property(fc.double({ min: 0.001, max: 1, noNaN: true }), (level) => {
      const channel = wave(4000, level)
      expect(channelsAre([channel, channel.slice()])).toBe('same')
      expect(channelsAre([channel, channel.map(value => -value)])).toBe('opposite')
      expect(channelsAre([channel, sine(317, 44_100, 4000, level)])).toBe('own')
    }), { numRuns: 30 })
  })

  it('are the same when each was dithered by itself, and not when they differ as little but are as quiet', () => {
    fc.assert(fc.property(fc.double({ min: 0.02, max: 1, noNaN: true }), fc.integer({ min: 0, max: 1e6 }), (level, seed) => {
      const stored = (dither: () => number) => wave(4000, level).map(value => Math.round(value * 32_767 + dither()) / 32_768)
      expect(channelsAre([stored(tpdfDither(seed)), stored(tpdfDither(seed + 1))])).toBe('same')
    }), { numRuns: 30 })
    const quiet = wave(4000, 0.0002)
    expect(channelsAre([quiet, quiet.map((value, i) => value + 0.00002 * Math.sin(i))])).toBe('own')
  })

  it('one of them silent or missing is no sameness; both silent is', () => {
    expect(channelsAre([wave(), new Float32Array(4000)])).toBe('own')
    expect(channelsAre([wave()])).toBe('own')
    expect(channelsAre([new Float32Array(10), new Float32Array(10)])).toBe('same')
  })
})
