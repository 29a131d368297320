import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sine } from '../../../tests/helpers/audio'
import { fromDb } from '../level'
import { loudnessOf, matchingGainDb, MATCHING_CEILING_DB, REFERENCE_LUFS, SILENCE_LUFS } from './loudness'

const RATE = 48_000
const integratedLufs = (channels: readonly Float32Array[], rate: number) => loudnessOf(channels, rate).integratedLufs
const hitLufs = (channels: readonly Float32Array[], rate: number) => loudnessOf(channels, rate).hitLufs

describe('integrated loudness', () => {
  it('a stereo sine of 1 kHz at -23 dBFS reads -23 LUFS (EBU Tech 3341, case 1)', () => {
    for (const rate of [22_050, 44_100, 48_000, 96_000]) {
      const side = sine(1000, rate, rate * 20, fromDb(-23))
      expect(Math.abs(integratedLufs([side, side], rate)! + 23)).toBeLessThan(0.1)
    }
  })

  it('-33 dBFS reads -33 LUFS (EBU Tech 3341, case 2)', () => {
    const side = sine(1000, RATE, RATE * 20, fromDb(-33))
    expect(Math.abs(integratedLufs([side, side], RATE)! + 33)).toBeLessThan(0.1)
  })

  it('quiet stretches before and after are gated: -36, -23, -36 reads -23 LUFS (EBU Tech 3341, case 3)', () => {
    const side = new Float32Array(RATE * 80)
    side.set(sine(1000, RATE, RATE * 10, fromDb(-36)))
    side.set(sine(1000, RATE, RATE * 60, fromDb(-23)), RATE * 10)
    side.set(sine(1000, RATE, RATE * 10, fromDb(-36)), RATE * 70)
    expect(Math.abs(integratedLufs([side, side], RATE)! + 23)).toBeLessThan(0.1)
  })

  it('997 Hz at full scale in one channel reads -3.01 LKFS (ITU-R BS.1770-4)', () => {
    const left = sine(997, RATE, RATE * 10)
    expect(Math.abs(integratedLufs([left, new Float32Array(left.length)], RATE)! + 3.01)).toBeLessThan(0.02)
  })

  it('needs a block of 400 ms, and of silence says the lowest there is', () => {
    expect(integratedLufs([new Float32Array(RATE * 0.39)], RATE)).toBeNull()
    expect(integratedLufs([new Float32Array(RATE)], RATE)).toBe(SILENCE_LUFS)
  })
})

describe('loudness of a hit', () => {
  const hit = (seconds: number, t60: number, level = 0.9) => {
    const channel = sine(400, RATE, Math.round(seconds * RATE), level)
    return channel.map((value, i) => value * Math.exp(-6.908 * i / (t60 * RATE)))
  }

  it('is that of a steady tone as long as its window', () => {
    const channel = sine(997, RATE, RATE * 2)
    expect(hitLufs([channel], RATE)).toBeCloseTo(-3.01, 1)
  })

  it('two recordings of one hit with other tails and leads agree within 0.5 LU', () => {
    for (const t60 of [0.1, 0.3, 0.8]) {
      const whole = hitLufs([hit(2, t60)], RATE)
      expect(Math.abs(hitLufs([hit(t60, t60)], RATE) - whole)).toBeLessThan(0.5)
      const late = new Float32Array(RATE * 3)
      late.set(hit(2, t60), RATE * 0.7)
      expect(Math.abs(hitLufs([late], RATE) - whole)).toBeLessThan(0.5)
    }
  })

  it('the matching gain brings any level to the reference', () => {
    fc.assert(fc.property(fc.double({ min: 0.01, max: 1, noNaN: true }), (level) => {
      const before = hitLufs([hit(0.5, 0.3, level)], RATE)
      const gain = fromDb(matchingGainDb(before, -60))
      expect(hitLufs([hit(0.5, 0.3, level).map(value => value * gain)], RATE)).toBeCloseTo(REFERENCE_LUFS, 3)
    }), { numRuns: 20 })
    expect(matchingGainDb(SILENCE_LUFS, -70)).toBe(0)
  })

  it('the matching gain never takes a true peak over the ceiling', () => {
    fc.assert(fc.property(fc.double({ min: -69, max: 0, noNaN: true }), fc.double({ min: -60, max: 3, noNaN: true }), (lufs, peakDb) => {
      expect(peakDb + matchingGainDb(lufs, peakDb)).toBeLessThanOrEqual(MATCHING_CEILING_DB + 1e-9)
    }))
  })
})
