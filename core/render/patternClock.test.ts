import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { barOf, basicPattern } from '../groove/basicPattern'
import { loopTempo } from '../groove/loopTempo'
import { emptyKit, wholeLayer } from '../kit/document'
import { PatternClock } from './patternClock'

const RATE = 48_000
const pattern = { beats: 4, notes: [0, 0.5, 1, 2.75].map(beat => ({ beat, note: 36, velocity: 100 })) }

describe('a pattern that repeats', () => {
  it('plays each note once and at its frame, whatever the blocks', () => {
    fc.assert(fc.property(fc.array(fc.integer({ min: 1, max: 30_000 }), { minLength: 1, maxLength: 60 }), fc.double({ min: 60, max: 200, noNaN: true }), (blocks, bpm) => {
      const clock = new PatternClock(RATE)
      clock.set(pattern, bpm, 0)
      const found: number[] = []
      let at = 0
      for (const block of blocks) {
        found.push(...clock.due(at, at + block).map(event => event.frame).sort((a, b) => a - b))
        at += block
      }
      const perBeat = RATE * 60 / bpm
      const wanted: number[] = []
      for (let round = 0; round * 4 * perBeat < at; round++) {
        for (const { beat } of pattern.notes) {
          const frame = Math.round((round * 4 + beat) * perBeat)
          if (frame < at) wanted.push(frame)
        }
      }
      expect(found).toEqual(wanted)
    }))
  })

  it('goes on from the same place in the bar at another tempo or with other notes', () => {
    const clock = new PatternClock(RATE)
    clock.set(pattern, 120, 0)
    // Two beats at 120 are one second.
    expect(clock.placeAt(RATE)).toBeCloseTo(2)
    clock.set(pattern, 60, RATE)
    expect(clock.placeAt(RATE)).toBeCloseTo(2)
    expect(clock.placeAt(RATE * 2)).toBeCloseTo(3)
    expect(clock.due(RATE, RATE * 3).map(event => event.frame)).toEqual([RATE + 0.75 * RATE])
    clock.set(undefined, 60, RATE * 3)
    expect(clock.due(RATE * 3, RATE * 30)).toEqual([])
    expect(clock.placeAt(RATE * 3)).toBeNull()
  })
})

describe('the pattern that is there until one is made', () => {
  const sound = { id: 'a'.repeat(64), name: 'x', frames: 10, sampleRate: RATE, channels: 1 }
  const empty = emptyKit('k')
  const kit = { ...empty, pads: empty.pads.map((pad, i) => i < 4 ? { ...pad, role: ['kick', 'kick', 'snare', null][i]!, layers: [wholeLayer(sound)] } : pad) }

  it('plays one pad of each kind, and the pad at hand in place of its kind', () => {
    const notesOf = (padIndex: number, kind: string | null) => new Set(basicPattern(kit, { padIndex, kind }).notes.map(note => note.note))
    expect(notesOf(1, 'kick')).toEqual(new Set([37, 38]))
    expect(notesOf(9, 'hat.closed')).toEqual(new Set([45, 36, 38]))
    expect(notesOf(9, null)).toEqual(new Set([45, 38]))
  })

  it('fills its length with whole bars', () => {
    const long = basicPattern(kit, { padIndex: 0, kind: 'kick' }, 10)
    expect(long.notes.every(note => note.beat < 10 && note.velocity >= 1 && note.velocity <= 127)).toBe(true)
    expect(long.notes.filter(note => note.note === 36).map(note => note.beat)).toEqual([0, 1.5, 2.5, 4, 5.5, 6.5, 8, 9.5])
    expect(barOf('hat.closed', 42)).toHaveLength(8)
  })
})

describe('the tempo of a loop', () => {
  it('is as stated, to whole beats; else as is likely', () => {
    expect(loopTempo(4, 120)).toEqual({ beats: 8, bpm: 120 })
    expect(loopTempo(2, 120.4)).toEqual({ beats: 4, bpm: 120 })
    expect(loopTempo(2)).toEqual({ beats: 4, bpm: 120 })
    expect(loopTempo(8)).toEqual({ beats: 16, bpm: 120 })
    fc.assert(fc.property(fc.double({ min: 0.5, max: 60, noNaN: true }), (seconds) => {
      const { beats, bpm } = loopTempo(seconds)
      expect(beats * 60 / bpm).toBeCloseTo(seconds)
    }))
  })
})
