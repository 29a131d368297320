import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { magnitudeAt, sine } from '../../tests/helpers/audio'
import type { Filter } from '../kit/document'
import { Biquad } from './biquad'
import { HitEnvelope } from './hitEnvelope'

const RATE = 48_000
const flat: Filter = { type: 'low-pass', cutoffHz: 1000, resonanceDb: 0 }

/** By how many decibels a filter changes a sine, once it has settled. */
function gainDb(filter: Filter, hz: number): number {
  const tone = sine(hz, RATE, RATE)
  new Biquad(filter, RATE).run(tone, tone.length)
  return 20 * Math.log10(magnitudeAt(tone.subarray(RATE / 2), hz, RATE))
}

describe('the filter', () => {
  // Source: R. Bristow-Johnson's cookbook: a low or high pass has the gain Q at its cutoff, 12 dB per octave beyond it.
  it.each(['low-pass', 'high-pass'] as const)('as a %s lies 3 dB down at its cutoff, and falls by 12 dB an octave', (type) => {
    const filter = { ...flat, type }
    expect(gainDb(filter, 1000)).toBeCloseTo(-3.01, 1)
    const [passed, near, far] = type === 'low-pass' ? [50, 2000, 4000] : [12_000, 500, 250]
    expect(gainDb(filter, passed)).toBeCloseTo(0, 1)
    const fall = gainDb(filter, near) - gainDb(filter, far)
    expect(fall).toBeGreaterThan(11)
    expect(fall).toBeLessThan(13.5)
  })

  it('rises at its cutoff by what its resonance says', () => {
    for (const resonanceDb of [0, 6, 18]) expect(gainDb({ ...flat, resonanceDb }, 1000)).toBeCloseTo(resonanceDb - 3.01, 1)
  })

  it('as a band pass leaves its middle alone and takes away both sides alike', () => {
    const band: Filter = { type: 'band-pass', cutoffHz: 1000, resonanceDb: 12 }
    expect(gainDb(band, 1000)).toBeCloseTo(0, 1)
    expect(gainDb(band, 250)).toBeLessThan(-18)
    expect(Math.abs(gainDb(band, 500) - gainDb(band, 2000))).toBeLessThan(0.5)
  })

  it('gives the same in one piece and in many', () => {
    fc.assert(fc.property(fc.array(fc.integer({ min: 1, max: 300 }), { minLength: 1, maxLength: 12 }), fc.constantFrom('low-pass', 'high-pass', 'band-pass'), (pieces, type) => {
      const filter: Filter = { type, cutoffHz: 900, resonanceDb: 9 }
      const length = pieces.reduce((sum, count) => sum + count, 0)
      const noise = Float32Array.from({ length }, (_, i) => Math.sin(i * i))
      const whole = noise.slice()
      new Biquad(filter, RATE).run(whole, length)
      const parts = new Biquad(filter, RATE)
      let at = 0
      for (const count of pieces) {
        parts.run(noise.subarray(at, at + count), count)
        at += count
      }
      expect(noise).toEqual(whole)
    }))
  })

  it('stays within bounds whatever is asked of it, and comes to rest', () => {
    fc.assert(fc.property(fc.constantFrom('low-pass', 'high-pass', 'band-pass'), fc.double({ min: 20, max: 96_000, noNaN: true }), fc.double({ min: 0, max: 24, noNaN: true }), (type, cutoffHz, resonanceDb) => {
      const click = new Float32Array(RATE * 2)
      click[0] = 1
      new Biquad({ type, cutoffHz, resonanceDb }, RATE).run(click, click.length)
      expect(click.every(value => Math.abs(value) < 20)).toBe(true)
      expect(click.subarray(-100).every(value => Math.abs(value) < 1e-3)).toBe(true)
    }), { numRuns: 40 })
  })
})

describe('the envelope of a hit', () => {
  const plain = { attackSeconds: 0, holdSeconds: 0, decaySeconds: null, releaseSeconds: 0.01 }
  const shaped = (envelope: HitEnvelope, frames: number) => {
    const ones = new Float32Array(frames).fill(1)
    envelope.run([ones], frames)
    return ones
  }
  const db = (value: number) => 20 * Math.log10(value)

  it('rises in a straight line and stays at full level where it does not decay', () => {
    const levels = shaped(new HitEnvelope({ ...plain, attackSeconds: 0.01 }, RATE), 1000)
    expect(levels[0]).toBe(0)
    expect(levels[240]).toBeCloseTo(0.5, 6)
    expect([...levels.subarray(480)].every(value => value === 1)).toBe(true)
  })

  it('is held, then falls by 60 dB in the time of its decay', () => {
    const levels = shaped(new HitEnvelope({ ...plain, holdSeconds: 0.05, decaySeconds: 0.5 }, RATE), RATE)
    expect(levels[2400]).toBe(1)
    expect(db(levels[14_400]!)).toBeCloseTo(-30, 1)
    expect(db(levels[26_400]!)).toBeCloseTo(-60, 1)
  })

  it('falls faster once it was let go, by 60 dB in the time of its release, and is over 100 dB down', () => {
    const envelope = new HitEnvelope({ ...plain, decaySeconds: 2, releaseSeconds: 0.1 }, RATE)
    shaped(envelope, 4800)
    expect(envelope.isOver).toBe(false)
    envelope.release()
    const levels = shaped(envelope, 4800)
    // 60 dB of the release, and 3 dB of the decay in the same tenth of a second.
    expect(db(levels[4799]! / levels[0]!)).toBeCloseTo(-63, 1)
    shaped(envelope, 4800)
    expect(envelope.isOver).toBe(true)
  })

  it('is plain where nothing is to be done, and never rises but in its attack', () => {
    expect(new HitEnvelope(plain, RATE).isPlain).toBe(true)
    expect(new HitEnvelope({ ...plain, decaySeconds: 1 }, RATE).isPlain).toBe(false)
    fc.assert(fc.property(fc.double({ min: 0, max: 0.01, noNaN: true }), fc.double({ min: 0, max: 0.01, noNaN: true }), fc.double({ min: 0.001, max: 1, noNaN: true }), fc.nat(400), (attackSeconds, holdSeconds, decaySeconds, releasedAt) => {
      const envelope = new HitEnvelope({ attackSeconds, holdSeconds, decaySeconds, releaseSeconds: 0.02 }, RATE)
      const before = shaped(envelope, releasedAt)
      envelope.release()
      const levels = [...before, ...shaped(envelope, 500)]
      const top = Math.round(attackSeconds * RATE)
      for (let i = 1; i < levels.length; i++) if (i > top) expect(levels[i]!).toBeLessThanOrEqual(levels[i - 1]!)
      expect(levels.every(value => value >= 0 && value <= 1)).toBe(true)
    }))
  })
})
