import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Random } from '../../../demo/synth/dsp'
import { sine } from '../../../tests/helpers/audio'
import { nearestNote, pitchOf } from './pitch'
import { isSurePitch } from './surePitch'

const RATE = 48_000
const cents = (hz: number, wanted: number) => Math.abs(1200 * Math.log2(hz / wanted))
const from = (least: number, most: number) => fc.double({ min: least, max: most, noNaN: true })

interface Mode {
  readonly hz: number
  readonly level: number
  readonly t60: number
  /** How far above its pitch it begins, as a part of it, and how soon that has fallen to 37 %. */
  readonly fall?: { readonly part: number, readonly seconds: number }
}

/** Struck modes together. The phase of one that falls is the integral of its frequency. */
function struck(modes: readonly Mode[], seconds = 1): Float32Array {
  return Float32Array.from({ length: Math.round(seconds * RATE) }, (_, i) => modes.reduce((sum, { hz, level, t60, fall = { part: 0, seconds: 1 } }) => {
    const at = i / RATE
    const turns = hz * (at + fall.part * fall.seconds * (1 - Math.exp(-at / fall.seconds)))
    return sum + level * Math.exp(-Math.log(1000) * at / t60) * Math.sin(2 * Math.PI * turns)
  }, 0))
}
const pitchIn = (samples: Float32Array) => pitchOf(samples, RATE, 0, samples.length / RATE)!

describe('the pitch', () => {
  it('of sines is within 5 cents (ISO 16)', () => {
    for (const note of [28, 36, 45, 57, 69, 81, 96]) {
      const hz = 440 * 2 ** ((note - 69) / 12)
      const found = pitchIn(sine(hz, RATE, RATE))
      expect(cents(found.hz, hz)).toBeLessThan(5)
      expect(found.confidence).toBeGreaterThan(0.95)
      expect(nearestNote(found.hz).note).toBe(note)
    }
  })

  it('of decaying modal tones is that of their lowest mode, within 5 cents', () => {
    for (const hz of [62, 98, 147, 233, 370]) {
      const modes = [1, 1.594, 2.136, 2.653].map((ratio, mode) => ({ hz: hz * ratio, level: 0.5 / (mode + 1), t60: 0.8 / (1 + mode * 0.5) }))
      expect(cents(pitchIn(struck(modes)).hz, hz)).toBeLessThan(5)
    }
  })

  it('of a tone that falls is where it comes to rest, within 12 cents', () => {
    // What is left of the fall after 0.28 s, in the last part of what is heard, is less than a cent.
    fc.assert(fc.property(from(42, 250), from(0.05, 2), from(0.008, 0.03), from(0.8, 1.5), (hz, part, seconds, t60) => {
      const found = pitchIn(struck([{ hz, level: 0.7, t60, fall: { part, seconds } }]))
      expect(cents(found.hz, hz)).toBeLessThan(12)
      expect(isSurePitch(found)).toBe(true)
    }), { numRuns: 60 })
  })

  it('of two that lie close together is that of the stronger one, within 5 cents', () => {
    fc.assert(fc.property(from(250, 2000), from(2, 3.5), from(4, 11), (hz, semitones, belowDb) => {
      const modes = [{ hz, level: 0.6, t60: 1 }, { hz: hz * 2 ** (-semitones / 12), level: 0.6 * 10 ** (-belowDb / 20), t60: 1 }]
      expect(cents(pitchIn(struck(modes)).hz, hz)).toBeLessThan(5)
    }), { numRuns: 60 })
  })

  it('of a brief tone is found, of one too brief not', () => {
    expect(cents(pitchIn(struck([{ hz: 2400, level: 0.7, t60: 0.05 }], 0.03)).hz, 2400)).toBeLessThan(5)
    expect(pitchIn(struck([{ hz: 2400, level: 0.7, t60: 0.05 }], 0.015))).toBeUndefined()
  })

  it('of noise is never sure, neither where all of it is high and a hum lies below', () => {
    for (let seed = 1; seed <= 40; seed++) {
      const random = new Random(seed)
      const white = Float32Array.from({ length: RATE / 2 }, () => random.noise())
      expect(isSurePitch(pitchIn(white))).toBe(false)
      const high = white.map((value, i) => value - 2 * (white[i - 1] ?? 0) + (white[i - 2] ?? 0) + 0.05 * Math.sin(2 * Math.PI * 50 * i / RATE))
      expect(isSurePitch(pitchIn(high))).toBe(false)
    }
  })
})
