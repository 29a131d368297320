import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { EmporionError } from '../../errors'
import { emptyKit, wholeLayer, type Kit } from '../../kit/document'
import { assignParts } from '../assign'
import { clampTempo, emptyPattern, MOST_HITS, type Hit, type Part, type Pattern } from '../document'
import { addHits, addPart } from '../edits'
import { quantityBytes, ByteReader } from './bytes'
import { midiFromPattern } from './fromPattern'
import { readMidi } from './read'
import { patternFromMidi } from './toPattern'
import { writeMidi } from './write'

const text = (value: string) => [...new TextEncoder().encode(value)]
const chunk = (id: string, ...data: number[]) => [...text(id), 0, 0, data.length >> 8, data.length & 255, ...data]
const file = (format: number, division: [number, number], ...tracks: number[][]) => Uint8Array.from([...chunk('MThd', 0, format, 0, tracks.length, ...division), ...tracks.flatMap(track => chunk('MTrk', ...track))])
const END = [0, 0xFF, 0x2F, 0]
const parts = { by: 'parts' } as const

describe('variable-length quantities', () => {
  // Standard MIDI Files 1.0, the table of examples (references.md).
  it.each([[0, [0]], [0x7F, [0x7F]], [0x80, [0x81, 0]], [0x3FFF, [0xFF, 0x7F]], [0x200000, [0x81, 0x80, 0x80, 0]], [0x0FFFFFFF, [0xFF, 0xFF, 0xFF, 0x7F]]])('%i', (value, bytes) => {
    expect(quantityBytes(value)).toEqual(bytes)
    expect(new ByteReader(Uint8Array.from(bytes)).quantity()).toBe(value)
  })

  it('round-trip, and one that does not end is none', () => {
    fc.assert(fc.property(fc.nat(0x0FFFFFFF), (value) => {
      expect(new ByteReader(Uint8Array.from(quantityBytes(value))).quantity()).toBe(value)
    }))
    expect(new ByteReader(Uint8Array.of(0x81, 0x80)).quantity()).toBeUndefined()
    expect(new ByteReader(Uint8Array.of(0xFF, 0xFF, 0xFF, 0xFF, 0)).quantity()).toBeUndefined()
  })
})

describe('reading MIDI files', () => {
  it('takes running status, note-ons of velocity 0 as offs, and any division', () => {
    const song = readMidi(file(0, [0, 96], [0, 0x99, 36, 100, 48, 36, 0, 48, 38, 90, 24, 38, 0, ...END]))
    expect(song.tracks[0]!.notes).toEqual([
      { tick: 0, length: 480, channel: 10, note: 36, velocity: 100 },
      { tick: 960, length: 240, channel: 10, note: 38, velocity: 90 },
    ])
    expect(song.problems).toEqual([])
  })

  it('lays SMPTE ticks out at the tempo', () => {
    // 25 frames of 40 ticks are 1,000 ticks a second (0xE7 is -25); at 120 beats a minute 500 ticks are a quarter.
    const song = readMidi(file(0, [0xE7, 40], [...quantityBytes(500), 0x99, 36, 100, ...quantityBytes(250), 0x89, 36, 0, ...END]))
    expect(song.tracks[0]!.notes[0]).toMatchObject({ tick: 960, length: 480 })
  })

  it('reads tempo and metre, and goes past what it does not know', () => {
    const song = readMidi(file(1, [3, 0xC0], [0, 0xFF, 0x51, 3, 0x09, 0x27, 0xC0, 0, 0xFF, 0x58, 4, 7, 3, 12, 8, 0, 0xF0, 2, 1, 0xF7, 0, 0xFF, 0x7F, 1, 9, ...END], [0, 0xFF, 0x03, 4, ...text('Kick'), 0, 0xC9, 5, 0, 0x99, 36, 64, 10, 0x89, 36, 64, ...END]))
    // FF 51 03 09 27 C0 is 600,000 microseconds a quarter: 100 beats a minute.
    expect(song.tempos).toEqual([{ tick: 0, bpm: 100 }])
    expect(song.metres).toEqual([{ tick: 0, beats: 7, unit: 8 }])
    expect(song.tracks[1]).toMatchObject({ name: 'Kick' })
    expect(song.tracks[1]!.notes).toHaveLength(1)
  })

  it('keeps what comes before damage, and says so', () => {
    const whole = file(0, [0, 96], [0, 0x99, 36, 100, 10, 0x89, 36, 0, 10, 0x99, 38, 100, 10, 0x89, 38, 0, ...END])
    const cut = readMidi(whole.subarray(0, whole.length - 7))
    expect(cut.tracks[0]!.notes).toHaveLength(2)
    expect(cut.problems.join(' ')).toMatch(/ends \d+ bytes before track 1.*is damaged.*were read: 2/)
    const odd = readMidi(file(0, [0, 96], [0, 0x99, 36, 100, 5, 0x99, 38, 200, ...END]))
    expect(odd.tracks[0]!.notes).toEqual([{ tick: 0, length: 50, channel: 10, note: 36, velocity: 100 }])
    expect(odd.problems[0]).toMatch(/Track 1 is damaged \(an event that does not end\); the notes before that were read: 1/)
  })

  it('is inside a RIFF wrapper too', () => {
    const inner = file(0, [0, 96], [0, 0x99, 36, 100, ...END])
    const wrapped = Uint8Array.from([...text('RIFF'), 0, 0, 0, 0, ...text('RMIDdata'), inner.length, 0, 0, 0, ...inner])
    expect(readMidi(wrapped).tracks[0]!.notes).toHaveLength(1)
  })

  it.each([['nothing', Uint8Array.of()], ['a WAVE file', Uint8Array.from(text('RIFF....WAVEfmt '))], ['no track', file(0, [0, 96])], ['no ticks', file(0, [0, 0], END)]])('refuses %s', (_, bytes) => {
    expect(() => readMidi(bytes)).toThrow(EmporionError)
  })

  it('of random bytes gives a song or an error with a reason', () => {
    const body = fc.uint8Array({ maxLength: 300 })
    fc.assert(fc.property(body, fc.boolean(), (bytes, hasHead) => {
      const given = hasHead ? file(0, [0, 96], [...bytes]) : bytes
      try {
        const song = readMidi(given)
        const { pattern } = patternFromMidi(song, { name: 'x' })
        expect(pattern.parts.every(part => part.hits.every(hit => hit.velocity >= 1 && hit.velocity <= 127 && hit.length >= 1))).toBe(true)
      }
      catch (thrown) {
        expect(thrown).toBeInstanceOf(EmporionError)
      }
    }), { numRuns: 500 })
  })

  it('takes a file of 100,000 notes, as many as a pattern holds, and says what is left', () => {
    const many = Array.from({ length: 100_000 }, (_, i) => [1, 0x99, 36 + i % 16, 100]).flat()
    const data = [...many, ...END]
    const bytes = Uint8Array.from([...chunk('MThd', 0, 0, 0, 1, 0, 96), ...text('MTrk'), data.length >>> 24, data.length >> 16 & 255, data.length >> 8 & 255, data.length & 255, ...data])
    const song = readMidi(bytes)
    expect(song.tracks[0]!.notes).toHaveLength(100_000)
    const { pattern, notes } = patternFromMidi(song, { name: 'many' })
    expect(pattern.bars).toBe(256)
    expect(pattern.parts.reduce((sum, part) => sum + part.hits.length, 0)).toBe(MOST_HITS)
    expect(notes.join(' ')).toMatch(/261 bars; 256 bars were taken.*98,303 notes; a pattern holds 20,000/)
  })
})

describe('a pattern made of a MIDI file', () => {
  it('takes channel 10 where there is one, else all, or those that are chosen', () => {
    const bytes = file(0, [0, 96], [0, 0x90, 60, 100, 0, 0x99, 36, 100, 10, 0x80, 60, 0, 0, 0x89, 36, 0, ...END])
    const song = readMidi(bytes)
    expect(patternFromMidi(song, { name: 'x' }).pattern.parts.map(part => part.note)).toEqual([36])
    expect(patternFromMidi(song, { name: 'x', channels: new Set([1]) }).pattern.parts.map(part => part.note)).toEqual([60])
    expect(patternFromMidi(song, { name: 'x' }).notes).toEqual(['Notes of other channels that were left out: 1.'])
    expect([...patternFromMidi(song, { name: 'x' }).channels]).toEqual([[1, 1], [10, 1]])
  })

  it('names parts by their keys and gives them kinds', () => {
    const { pattern } = patternFromMidi(readMidi(file(0, [0, 96], [0, 0x99, 42, 100, 1, 0x99, 20, 9, ...END])), { name: 'x' })
    expect(pattern.parts.map(({ name, role }) => [name, role])).toEqual([['Note 20', null], ['Closed Hi-Hat', 'hat.closed']])
  })

  it('takes some bars alone', () => {
    const bytes = writeMidi([{ name: 'k', notes: [0, 4000, 8000, 12000].map(tick => ({ tick, length: 10, note: 36, velocity: 9 })) }], { format: 1, name: 'x', tempoBpm: 90, metre: { beats: 4, unit: 4 }, endTick: 15360, channel: 10 })
    const { pattern, bars } = patternFromMidi(readMidi(bytes), { name: 'x', fromBar: 1, bars: 2 })
    expect(bars).toBe(4)
    expect(pattern.parts[0]!.hits.map(hit => hit.tick)).toEqual([160, 4160])
  })

  it('says which changes of tempo and metre it has not', () => {
    const { pattern, notes } = patternFromMidi({ format: 1, tracks: [], tempos: [{ tick: 0, bpm: 90 }, { tick: 9, bpm: 100 }], metres: [{ tick: 0, beats: 3, unit: 4 }, { tick: 9, beats: 4, unit: 4 }], endTick: 0, problems: [] }, { name: '' })
    expect(pattern).toMatchObject({ tempoBpm: 90, metre: { beats: 3, unit: 4 }, bars: 1, name: 'From a MIDI file' })
    expect(notes).toHaveLength(2)
  })
})

/** Parts on notes of their own, whose hits do not reach into each other. */
const patterns = fc.record({
  tempoBpm: fc.double({ min: 5, max: 400, noNaN: true }).map(clampTempo),
  metre: fc.record({ beats: fc.integer({ min: 1, max: 12 }), unit: fc.constantFrom(2, 4, 8, 16) }),
  bars: fc.integer({ min: 1, max: 8 }),
  lines: fc.array(fc.record({ name: fc.string({ maxLength: 20 }).map(name => name.trim()), gaps: fc.array(fc.tuple(fc.integer({ min: 1, max: 900 }), fc.integer({ min: 1, max: 127 })), { maxLength: 40 }) }), { maxLength: 6 }),
}).map(({ tempoBpm, metre, bars, lines }): Pattern => {
  const end = 3840 * metre.beats / metre.unit * bars
  return {
    ...emptyPattern('Round'), tempoBpm, metre, bars,
    parts: lines.map(({ name, gaps }, i): Part => {
      let at = 0
      const hits = gaps.flatMap(([gap, velocity]): Hit[] => {
        const tick = at
        at += gap
        return at <= end ? [{ tick, velocity, length: gap }] : []
      })
      return { id: `part-${i + 1}`, name: name || `Part ${i}`, role: null, note: 90 + i, hits }
    }).filter(part => part.hits.length > 0),
  }
})

describe('writing MIDI files', () => {
  it('a written file read back is the same pattern', () => {
    fc.assert(fc.property(patterns, (pattern) => {
      const back = patternFromMidi(readMidi(midiFromPattern(pattern, { format: 1, notes: parts }).bytes), { name: pattern.name })
      expect(back.notes).toEqual([])
      expect(back.pattern.parts.map(({ id: _id, ...part }) => part)).toEqual(pattern.parts.map(({ id: _id, ...part }) => part))
      expect({ ...back.pattern, parts: [] }).toEqual({ ...pattern, parts: [] })
    }))
  })

  it('in one track too, but for the names', () => {
    fc.assert(fc.property(patterns, (pattern) => {
      const back = patternFromMidi(readMidi(midiFromPattern(pattern, { format: 0, notes: parts }).bytes), { name: pattern.name })
      expect(back.pattern.parts.map(part => part.hits)).toEqual(pattern.parts.map(part => part.hits))
    }), { numRuns: 30 })
  })

  const sound = { id: 'b'.repeat(64), name: 'x', frames: 10, sampleRate: 48_000, channels: 1 }
  const empty = emptyKit('k')
  const kit: Kit = { ...empty, pads: empty.pads.map((pad, i) => i === 3 ? { ...pad, role: 'kick', note: 77, layers: [wholeLayer(sound)] } : pad) }
  const pattern = ['kick', 'metal.gong'].reduce((now, role, i) => addHits(addPart(now, { name: role, role, note: 20 + i }), `part-${i + 1}`, [{ tick: 480, velocity: 99, length: 30 }, { tick: 9999, velocity: 9, length: 1 }]).pattern, emptyPattern('p'))
  const assignment = assignParts(pattern, kit, 'kind')
  const notesOf = (bytes: Uint8Array) => readMidi(bytes).tracks.flatMap(track => track.notes.map(note => note.note))

  it('by the notes of the kit, of General MIDI, or of a target, and says what is left', () => {
    const byKit = midiFromPattern(pattern, { format: 1, notes: { by: 'kit', kit, assignment } })
    expect(notesOf(byKit.bytes)).toEqual([77])
    expect(byKit.left).toEqual(['"metal.gong" has no note there. Hits left out: 2.', 'Hits beyond the end of the pattern: 2.'])
    expect(notesOf(midiFromPattern(pattern, { format: 1, notes: { by: 'percussion' } }).bytes)).toEqual([36, 56])
    const target = { id: 't', name: 'T', columns: 4, rows: 4, pads: 16, lowNote: 48, highNote: 63, layers: 1 }
    expect(notesOf(midiFromPattern(pattern, { format: 1, notes: { by: 'target', target, assignment } }).bytes)).toEqual([51])
  })

  it('has hits where the swing puts them', () => {
    const swung = { ...pattern, swing: { percent: 200 / 3, step: 8 as const } }
    expect(readMidi(midiFromPattern(swung, { format: 1, notes: parts }).bytes).tracks[1]!.notes[0]!.tick).toBe(640)
  })
})
