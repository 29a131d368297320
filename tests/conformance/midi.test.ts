import fc from 'fast-check'
import { parseMidi, writeMidi as writeReference, type MidiEvent } from 'midi-file'
import { describe, expect, it } from 'vitest'
import { midiFromPattern } from '../../core/groove/midi/fromPattern'
import { readMidi } from '../../core/groove/midi/read'
import { SHIPPED_PATTERNS } from '../../core/groove/shipped'
import { patternFromSteps } from '../../core/groove/steps'

/** Notes of a file as the reference library reads it: begin, length, note, velocity, in its ticks. */
function referenceNotes(bytes: Uint8Array): number[][] {
  return parseMidi(bytes).tracks.flatMap((events) => {
    let tick = 0
    const open = new Map<number, number[][]>()
    const notes: number[][] = []
    for (const event of events) {
      tick += event.deltaTime
      if (event.type === 'noteOn') {
        const note = [tick, 0, event.noteNumber, event.velocity]
        notes.push(note)
        open.set(event.noteNumber, [...open.get(event.noteNumber) ?? [], note])
      }
      else if (event.type === 'noteOff') {
        const note = open.get(event.noteNumber)?.shift()
        if (note) note[1] = tick - note[0]!
      }
    }
    return notes
  })
}

// The reference: the library `midi-file` (npm), both ways.
describe('MIDI files against a reference library', () => {
  it.each(SHIPPED_PATTERNS.map(pattern => [pattern.name, pattern] as const))('it reads "%s" as it was written', (_, written) => {
    const pattern = { ...patternFromSteps(written), swing: { percent: 50, step: 16 as const } }
    const { bytes } = midiFromPattern(pattern, { format: 1, notes: { by: 'parts' } })
    const { header, tracks } = parseMidi(bytes)
    expect(header).toMatchObject({ format: 1, ticksPerBeat: 960, numTracks: pattern.parts.length + 1 })
    expect(tracks[0]).toContainEqual(expect.objectContaining({ type: 'timeSignature', numerator: pattern.metre.beats, denominator: pattern.metre.unit }))
    const tempo = tracks[0]!.find(event => event.type === 'setTempo')
    expect(60_000_000 / (tempo as { microsecondsPerBeat: number }).microsecondsPerBeat).toBeCloseTo(pattern.tempoBpm, 2)
    expect(tracks.slice(1).map(events => events.find(event => event.type === 'trackName'))).toEqual(pattern.parts.map(part => expect.objectContaining({ text: part.name })))
    expect(referenceNotes(bytes)).toEqual(pattern.parts.flatMap(part => part.hits.map(hit => [hit.tick, hit.length, part.note, hit.velocity])))
    const ends = tracks.map(events => events.reduce((sum, event) => sum + event.deltaTime, 0))
    expect(new Set(ends)).toEqual(new Set([pattern.bars * 3840 * pattern.metre.beats / pattern.metre.unit]))
  })

  it('we read what it writes, with running status and with note-offs as velocity 0', () => {
    const notes = fc.array(fc.record({ gap: fc.nat(2000), length: fc.integer({ min: 1, max: 2000 }), note: fc.nat(127), velocity: fc.integer({ min: 1, max: 127 }), channel: fc.nat(15) }), { maxLength: 50 })
    fc.assert(fc.property(notes, fc.constantFrom(24, 96, 480, 960), fc.boolean(), fc.boolean(), (given, ticksPerBeat, running, useByte9ForNoteOff) => {
      const events: MidiEvent[] = given.flatMap(({ gap, length, note, velocity, channel }): MidiEvent[] => [
        { deltaTime: gap, type: 'noteOn', noteNumber: note, velocity, channel },
        { deltaTime: length, type: 'noteOff', noteNumber: note, velocity: 0, channel },
      ])
      const bytes = Uint8Array.from(writeReference({ header: { format: 0, numTracks: 1, ticksPerBeat }, tracks: [[...events, { deltaTime: 0, type: 'endOfTrack', meta: true }]] }, { running, useByte9ForNoteOff }))
      let at = 0
      const wanted = given.map(({ gap, length, note, velocity, channel }) => {
        const on = at + gap
        at = on + length
        const [tick, end] = [on, at].map(one => Math.round(one * 960 / ticksPerBeat)) as [number, number]
        return { tick, length: Math.max(1, end - tick), channel: channel + 1, note, velocity }
      })
      const song = readMidi(bytes)
      expect(song.problems).toEqual([])
      expect(song.tracks[0]!.notes).toEqual(wanted)
    }))
  })
})
