import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { brightness } from './colour'
import { envelopeOf, stepSeconds, stepsIn } from './envelope'
import { figuresOf } from './figures'
import { nearestNote, pitchOf } from './pitch'
import { timingOf } from './timing'

// Sounds made to measure: what went in must come out.
const RATE = 44_100

interface Made {
  readonly hz: number
  readonly t60: number
  readonly level: number
  readonly leadSeconds: number
}

/** A struck tone: at once there, then an even fall. */
function tone({ hz, t60, level, leadSeconds }: Made, seconds = leadSeconds + t60 * 1.3): Float32Array {
  const lead = Math.round(leadSeconds * RATE)
  return Float32Array.from({ length: Math.round(seconds * RATE) }, (_, i) => {
    const t = (i - lead) / RATE
    return t < 0 ? 0 : level * Math.exp(-6.908 * t / t60) * Math.cos(2 * Math.PI * hz * t)
  })
}

const made = fc.record({
  hz: fc.double({ min: 150, max: 3000, noNaN: true }),
  t60: fc.double({ min: 0.2, max: 1.2, noNaN: true }),
  level: fc.double({ min: 0.05, max: 1, noNaN: true }),
  leadSeconds: fc.double({ min: 0, max: 0.5, noNaN: true }),
})

describe('a struck tone', () => {
  it('is as long, late and quick to die as it was made', () => {
    fc.assert(fc.property(made, (asked) => {
      const timing = timingOf(envelopeOf([tone(asked)], RATE))!
      expect(Math.abs(timing.leadSeconds - asked.leadSeconds)).toBeLessThan(0.0021)
      expect(timing.attackSeconds).toBeLessThan(0.004)
      expect(timing.effectiveSeconds / asked.t60).toBeGreaterThan(0.95)
      expect(timing.effectiveSeconds / asked.t60).toBeLessThan(1.05)
      expect(timing.decaySeconds! / asked.t60).toBeGreaterThan(0.94)
      expect(timing.decaySeconds! / asked.t60).toBeLessThan(1.06)
      expect(timing.leadSeconds + timing.effectiveSeconds + timing.tailSeconds).toBeCloseTo(asked.leadSeconds + asked.t60 * 1.3, 2)
    }), { numRuns: 60 })
  })

  it('is one hit at its pitch, within 5 cents, as bright as that pitch is high', () => {
    fc.assert(fc.property(made, (asked) => {
      const { hits, pitch, brightness: bright } = figuresOf([tone(asked)], RATE)
      expect(hits).toHaveLength(1)
      expect(Math.abs(1200 * Math.log2(pitch!.hz / asked.hz))).toBeLessThan(5)
      expect(pitch!.confidence).toBeGreaterThan(0.8)
      expect(Math.abs(bright! - brightness(asked.hz))).toBeLessThanOrEqual(6)
    }), { numRuns: 60 })
  })

  it('too short to have a pitch has none', () => {
    expect(pitchOf(tone({ hz: 500, t60: 0.3, level: 1, leadSeconds: 0 }, 0.015), RATE, 0, 0.015)).toBeUndefined()
    expect(pitchOf(new Float32Array(RATE), RATE, 0, 1)).toBeUndefined()
  })
})

describe('several struck tones', () => {
  const gaps = fc.array(fc.tuple(fc.double({ min: 0.15, max: 0.5, noNaN: true }), fc.double({ min: 0.55, max: 1, noNaN: true })), { minLength: 1, maxLength: 6 })

  it('are as many hits as were made, each within 5 ms of its time and ended by the next', () => {
    fc.assert(fc.property(gaps, fc.double({ min: 300, max: 2000, noNaN: true }), (list, hz) => {
      const times = list.reduce<number[]>((before, [gap]) => [...before, before.at(-1)! + gap], [0.05])
      const out = new Float32Array(Math.round((times.at(-1)! + 0.5) * RATE))
      times.forEach((time, i) => tone({ hz, t60: 0.12, level: 0.5 * (list[i - 1]?.[1] ?? 1), leadSeconds: time }, time + 0.15).forEach((value, frame) => {
        if (frame < out.length) out[frame]! += value
      }))
      const { hits, flags } = figuresOf([out], RATE)
      expect(hits).toHaveLength(times.length)
      hits.forEach((hit, i) => {
        expect(Math.abs(hit.startSeconds - times[i]!)).toBeLessThan(0.005)
        if (i > 0) expect(hits[i - 1]!.endSeconds).toBe(hit.startSeconds)
      })
      expect(flags).toContain('several-hits')
    }), { numRuns: 40 })
  })
})

describe('notes and steps', () => {
  it('every MIDI note is nearest to its own frequency, and half a semitone off is 50 cents (ISO 16)', () => {
    for (let note = 0; note <= 127; note++) {
      const hz = 440 * 2 ** ((note - 69) / 12)
      expect(nearestNote(hz).note).toBe(note)
      expect(nearestNote(hz).cents).toBeCloseTo(0, 9)
      expect(nearestNote(hz * 2 ** (0.3 / 12)).cents).toBeCloseTo(30, 6)
    }
  })

  it('an envelope never lies below a sample, and counts time in its own steps', () => {
    fc.assert(fc.property(fc.array(fc.float({ min: -1, max: 1, noNaN: true }), { minLength: 1, maxLength: 500 }), fc.constantFrom(8000, 44_100, 96_000), (values, rate) => {
      const channel = Float32Array.from(values)
      const envelope = envelopeOf([channel], rate)
      channel.forEach((value, frame) => expect(envelope.values[Math.floor(frame / envelope.framesPerStep)]!).toBeGreaterThanOrEqual(Math.abs(value)))
      expect(envelope.peak).toBe(Math.max(...envelope.values))
      expect(stepSeconds(envelope, stepsIn(envelope, 0.25))).toBeCloseTo(0.25, 2)
    }))
  })
})
