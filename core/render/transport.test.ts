import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { barOf, basicPattern } from '../groove/basicPattern'
import { loopTempo } from '../groove/loopTempo'
import { playedFromBeats } from '../groove/played'
import { emptyKit, wholeLayer } from '../kit/document'
import { Clicks } from './clicks'
import { Transport } from './transport'

const RATE = 48_000
const BEATS = [0, 0.5, 1, 2.75]
const four = (...beats: number[]) => playedFromBeats(4, beats.map(beat => ({ beat, note: 36, velocity: 100 })))
const pattern = four(...BEATS)
/** Frames of note-ons. */
const ons = (transport: Transport, from: number, to: number) => transport.due(from, to).notes.filter(note => note.velocity > 0).map(note => note.frame)

/** The frames that are due in blocks of some sizes. */
function run(transport: Transport, blocks: readonly number[]): { frames: number[], end: number } {
  const frames: number[] = []
  let at = 0
  for (const block of blocks) {
    frames.push(...ons(transport, at, at + block))
    at += block
  }
  return { frames, end: at }
}

describe('a pattern that repeats', () => {
  it('plays each note once and at its frame, whatever the blocks', () => {
    fc.assert(fc.property(fc.array(fc.integer({ min: 1, max: 30_000 }), { minLength: 1, maxLength: 60 }), fc.double({ min: 5, max: 400, noNaN: true }), (blocks, bpm) => {
      const transport = new Transport(RATE)
      transport.start(pattern, { bpm }, 0)
      const { frames, end } = run(transport, blocks)
      const perBeat = RATE * 60 / bpm
      const wanted: number[] = []
      for (let round = 0; round * 4 * perBeat < end; round++) {
        for (const beat of BEATS) {
          const frame = Math.round((round * 4 + beat) * perBeat)
          if (frame < end) wanted.push(frame)
        }
      }
      expect(frames).toEqual(wanted)
    }))
  })

  it('has not drifted after ten minutes', () => {
    const transport = new Transport(44_100)
    transport.start(four(0), { bpm: 97.3 }, 0)
    let last = 0
    for (let at = 0; at < 44_100 * 600; at += 128) last = ons(transport, at, at + 128).at(-1) ?? last
    const length = 44_100 * 60 / 97.3 * 4
    expect(last).toBe(Math.round(Math.floor(44_100 * 600 / length) * length))
  })

  it('lets each note go after its length', () => {
    const transport = new Transport(RATE)
    transport.start(four(0), { bpm: 60 }, 0)
    // A quarter of a quarter note at 60 beats a minute is a quarter of a second.
    expect(transport.due(0, 100).notes).toEqual([{ frame: 0, note: 36, velocity: 100 }, { frame: RATE / 4, note: 36, velocity: 0 }])
  })

  it('goes on from the same place at another tempo or with other notes', () => {
    const transport = new Transport(RATE)
    transport.start(pattern, { bpm: 120 }, 0)
    // Two beats at 120 are one second.
    expect(transport.placeAt(RATE)).toBeCloseTo(1920)
    transport.setTempo(60, RATE)
    expect(transport.placeAt(RATE)).toBeCloseTo(1920)
    expect(transport.placeAt(RATE * 2)).toBeCloseTo(2880)
    transport.change(four(2.5), 60, RATE)
    expect(ons(transport, RATE, RATE * 3)).toEqual([RATE * 1.5])
    transport.stop()
    expect(ons(transport, RATE * 3, RATE * 30)).toEqual([])
    expect(transport.placeAt(RATE * 3)).toBeNull()
  })

  it('lets another take over with the next bar, from its beginning', () => {
    const transport = new Transport(RATE)
    transport.start(four(0, 3), { bpm: 120 }, 0)
    expect(ons(transport, 0, RATE)).toEqual([0])
    transport.changeAtBar(four(0, 1), 60)
    expect(transport.isChanging).toBe(true)
    expect(ons(transport, RATE, RATE * 4)).toEqual([RATE * 1.5, RATE * 2, RATE * 3])
    expect(transport.isChanging).toBe(false)
    expect(transport.placeAt(RATE * 4)).toBeCloseTo(1920)
    expect(transport.ticksPerSecond).toBe(960)
  })

  it('has the notes of the one that waits changed, not of the one that still plays', () => {
    const transport = new Transport(RATE)
    transport.start(four(0, 3), { bpm: 120 }, 0)
    expect(ons(transport, 0, 100)).toEqual([0])
    transport.changeAtBar(four(), 120)
    transport.change(four(1), 120, 100)
    expect(ons(transport, 100, RATE * 4)).toEqual([RATE * 1.5, RATE * 2.5])
  })

  it('plays once where that is asked, and ends with the pattern', () => {
    const transport = new Transport(RATE)
    transport.start(pattern, { bpm: 120, isOnce: true }, 0)
    expect(run(transport, Array.from({ length: 800 }, () => 128 * 3)).frames).toHaveLength(4)
    expect(transport.isRunning).toBe(false)
  })
})

describe('counting in', () => {
  it('clicks a bar before the first note, higher on the first beat', () => {
    const transport = new Transport(RATE)
    transport.start(pattern, { bpm: 120, countInBars: 1 }, 0)
    const { notes, clicks } = transport.due(0, RATE * 2 + 1)
    expect(clicks).toEqual([0, 1, 2, 3, 4].map(beat => ({ frame: beat * RATE / 2, isFirst: beat % 4 === 0 })))
    expect(notes[0]!.frame).toBe(RATE * 2)
    expect(transport.placeAt(RATE)).toBeCloseTo(-1920)
  })

  it('begins at a place in the pattern, and plays nothing of what lies before', () => {
    const transport = new Transport(RATE)
    transport.start(pattern, { bpm: 60, fromTick: 960 }, 0)
    expect(ons(transport, 0, RATE * 3)).toEqual([0, RATE * 1.75])
  })

  it('is heard: a click has its level, its pitch and an end', () => {
    const left = new Float32Array(RATE / 10)
    new Clicks(RATE).mixInto([left, new Float32Array(left.length)], 0, [{ frame: 100, isFirst: true }])
    expect(left.subarray(0, 100).every(value => value === 0)).toBe(true)
    expect(Math.max(...left)).toBeGreaterThan(0.2)
    expect(left.subarray(100 + RATE * 0.03 + 1).every(value => value === 0)).toBe(true)
    // Upward crossings of zero in ten milliseconds of 1,760 Hz.
    let crossings = 0
    for (let i = 101; i < 580; i++) if (left[i - 1]! <= 0 && left[i]! > 0) crossings++
    expect(crossings).toBeGreaterThanOrEqual(17)
    expect(crossings).toBeLessThanOrEqual(18)
  })
})

describe('the pattern that is there until one is made', () => {
  const sound = { id: 'a'.repeat(64), name: 'x', frames: 10, sampleRate: RATE, channels: 1 }
  const empty = emptyKit('k')
  const kit = { ...empty, pads: empty.pads.map((pad, i) => i < 4 ? { ...pad, role: ['kick', 'kick', 'snare', null][i]!, layers: [wholeLayer(sound)] } : pad) }

  it('plays one pad of each kind, and the current pad in place of its kind', () => {
    const notesOf = (padIndex: number, kind: string | null) => new Set(basicPattern(kit, { padIndex, kind }).notes)
    expect(notesOf(1, 'kick')).toEqual(new Set([37, 38]))
    expect(notesOf(9, 'hat.closed')).toEqual(new Set([45, 36, 38]))
    expect(notesOf(9, null)).toEqual(new Set([45, 38]))
  })

  it('fills its length with whole bars', () => {
    const long = basicPattern(kit, { padIndex: 0, kind: 'kick' }, 10)
    expect([...long.velocities].every(velocity => velocity >= 1 && velocity <= 127)).toBe(true)
    expect([...long.ticks].filter((_, i) => long.notes[i] === 36).map(tick => tick / 960)).toEqual([0, 1.5, 2.5, 4, 5.5, 6.5, 8, 9.5])
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
