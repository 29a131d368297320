import { EmporionError } from '../../errors'
import { TICKS_PER_QUARTER } from '../document'
import { ByteReader } from './bytes'

/** A note of a MIDI file, in our ticks (960 a quarter). */
export interface MidiNote {
  readonly tick: number
  readonly length: number
  /** 1 to 16. */
  readonly channel: number
  readonly note: number
  readonly velocity: number
}

export interface MidiTrack {
  readonly name: string
  readonly notes: readonly MidiNote[]
}

/** What a Standard MIDI File holds, as far as patterns need it. */
export interface MidiSong {
  readonly format: 0 | 1 | 2
  readonly tracks: readonly MidiTrack[]
  /** In the order of their ticks; where it is not said, 120 from the beginning. */
  readonly tempos: readonly { readonly tick: number, readonly bpm: number }[]
  readonly metres: readonly { readonly tick: number, readonly beats: number, readonly unit: number }[]
  /** Where the last track ends. */
  readonly endTick: number
  /** What was wrong with the file, and what was done about it. */
  readonly problems: readonly string[]
}

/** Notes that are read of one file. */
export const MOST_MIDI_NOTES = 500_000
const USUAL_BPM = 120
const MICROSECONDS_A_MINUTE = 60_000_000

/** Data bytes of each channel message, by the upper half of its status from 8 on. */
const DATA_BYTES = [2, 2, 2, 2, 1, 1, 2] as const

interface Draft {
  readonly tempos: { tick: number, bpm: number }[]
  readonly metres: { tick: number, beats: number, unit: number }[]
  readonly problems: string[]
  notes: number
  endTick: number
}

/**
 * Reads a Standard MIDI File of format 0, 1 or 2, also inside a RIFF wrapper. Running status, system exclusive and unknown events
 * and chunks are gone past; a note-on of velocity 0 is a note-off; a note that is not let go lasts to the end of its track. Of a
 * damaged file what comes before the damage is kept, and said. With an SMPTE division ticks are time: they are laid out at the
 * first tempo.
 * Source: Standard MIDI Files 1.0 (MMA RP-001).
 *
 * @throws EmporionError `unreadable` when it is no MIDI file
 */
export function readMidi(bytes: Uint8Array): MidiSong {
  const file = new ByteReader(bytes, startOf(bytes))
  const isHeader = file.text(4) === 'MThd'
  const headerLength = file.number(4)
  if (!isHeader || headerLength === undefined || headerLength < 6) throw unreadable('it does not begin as one')
  const header = file.part(headerLength)
  const [format, stated, division] = [header.number(2), header.number(2), header.number(2)]
  if (format === undefined || stated === undefined || division === undefined) throw unreadable('it ends within its header')
  if (format > 2) throw unreadable(`it is of format ${format}, and there are 0, 1 and 2`)
  if (division === 0) throw unreadable('it says that a quarter note has no ticks')
  const draft: Draft = { tempos: [], metres: [], problems: [], notes: 0, endTick: 0 }
  const tracks: MidiTrack[] = []
  while (file.left >= 8) {
    const id = file.text(4)!
    const length = file.number(4)!
    if (length > file.left) draft.problems.push(`The file ends ${length - file.left} bytes before ${id === 'MTrk' ? `track ${tracks.length + 1}` : 'its last chunk'} does; what is there was read.`)
    const part = file.part(length)
    if (id === 'MTrk') tracks.push(readTrack(part, tracks.length + 1, draft))
  }
  if (tracks.length === 0) throw unreadable('it has no track')
  if (tracks.length !== stated) draft.problems.push(`It says that it has ${stated} tracks, and has ${tracks.length}.`)
  if (draft.notes > MOST_MIDI_NOTES) draft.problems.push(`It has more than ${MOST_MIDI_NOTES} notes; those after them were left out.`)
  const sort = <T extends { tick: number }>(items: T[]) => items.sort((a, b) => a.tick - b.tick)
  return scale({ format: format as 0 | 1 | 2, tracks, tempos: sort(draft.tempos), metres: sort(draft.metres), endTick: draft.endTick, problems: draft.problems }, division)
}

/** Past the head of a RIFF wrapper (`RIFF`, length, `RMID`, `data`, length), where there is one. */
function startOf(bytes: Uint8Array): number {
  const wrapper = new ByteReader(bytes)
  return wrapper.text(4) === 'RIFF' && wrapper.skip(4) && wrapper.text(4) === 'RMID' && wrapper.text(4) === 'data' ? 20 : 0
}

function unreadable(why: string): EmporionError {
  return new EmporionError('unreadable', { what: `This is no Standard MIDI File: ${why}.`, kept: 'Nothing was changed.', next: 'Choose another file.' })
}

interface OpenNote {
  readonly index: number
  readonly tick: number
}

function readTrack(track: ByteReader, number: number, draft: Draft): MidiTrack {
  const notes: MidiNote[] = []
  /** Notes that sound, oldest first, by channel and note. */
  const open = new Map<number, OpenNote[]>()
  let [tick, status, name] = [0, 0, '']
  const broken = (what: string) => draft.problems.push(`Track ${number} is damaged (${what}); the notes before that were read: ${notes.length}.`)
  const close = (key: number, at: number) => {
    const begun = open.get(key)?.shift()
    if (begun) notes[begun.index] = { ...notes[begun.index]!, length: Math.max(1, at - begun.tick) }
  }
  while (track.left > 0) {
    const wait = track.quantity()
    if (wait === undefined) {
      broken('a time that does not end')
      break
    }
    tick += wait
    const first = track.byte()
    if (first === undefined) {
      broken('an event is missing')
      break
    }
    if (first === 0xFF) {
      const type = track.byte()
      const length = track.quantity()
      if (type === undefined || length === undefined || length > track.left) {
        broken('a text or setting that does not end')
        break
      }
      const data = track.part(length)
      if (type === 0x2F) break
      if (type === 0x03 && name === '') name = (data.text(length) ?? '').trim()
      else if (type === 0x51 && length >= 3) addTempo(data.number(3)!, tick, draft)
      else if (type === 0x58 && length >= 2) addMetre(data.byte()!, data.byte()!, tick, draft)
      continue
    }
    if (first === 0xF0 || first === 0xF7) {
      const length = track.quantity()
      if (length === undefined || !track.skip(length)) {
        broken('a system message that does not end')
        break
      }
      status = 0
      continue
    }
    if (first >= 0xF0) {
      broken(`the byte ${first.toString(16)} is no event`)
      break
    }
    if (first < 0x80 && status === 0) {
      broken('a value without an event')
      break
    }
    const isRunning = first < 0x80
    if (!isRunning) status = first
    const count = DATA_BYTES[(status >> 4) - 8]!
    const one = isRunning ? first : track.byte()
    const two = count === 2 ? track.byte() : 0
    if (one === undefined || two === undefined || one > 127 || two > 127) {
      broken('an event that does not end')
      break
    }
    const [command, channel] = [status >> 4, (status & 0x0F) + 1]
    const key = channel * 128 + one
    if (command === 9 && two > 0) {
      if (draft.notes++ >= MOST_MIDI_NOTES) continue
      const waiting = open.get(key) ?? []
      waiting.push({ index: notes.length, tick })
      open.set(key, waiting)
      notes.push({ tick, length: 1, channel, note: one, velocity: two })
    }
    else if (command === 8 || command === 9) close(key, tick)
  }
  for (const [key, waiting] of open) for (let left = waiting.length; left > 0; left--) close(key, tick)
  draft.endTick = Math.max(draft.endTick, tick)
  return { name, notes }
}

function addTempo(microseconds: number, tick: number, draft: Draft): void {
  if (microseconds > 0) draft.tempos.push({ tick, bpm: MICROSECONDS_A_MINUTE / microseconds })
}

function addMetre(beats: number, power: number, tick: number, draft: Draft): void {
  if (beats > 0 && power <= 5) draft.metres.push({ tick, beats, unit: 2 ** power })
}

/** Brings ticks of the file's own to 960 a quarter. */
function scale(song: MidiSong, division: number): MidiSong {
  const factor = TICKS_PER_QUARTER / ticksOfQuarter(division, song.tempos[0]?.bpm ?? USUAL_BPM)
  const at = (tick: number) => Math.round(tick * factor)
  return {
    ...song,
    tracks: song.tracks.map(track => ({ ...track, notes: track.notes.map(note => ({ ...note, tick: at(note.tick), length: Math.max(1, at(note.tick + note.length) - at(note.tick)) })) })),
    tempos: song.tempos.map(tempo => ({ ...tempo, tick: at(tempo.tick) })),
    metres: song.metres.map(metre => ({ ...metre, tick: at(metre.tick) })),
    endTick: at(song.endTick),
  }
}

/** Ticks of a quarter note: as the division says, or with an SMPTE one (frames a second, ticks a frame) as a tempo makes them. */
function ticksOfQuarter(division: number, bpm: number): number {
  if (division < 0x8000) return division
  const frames = 256 - (division >> 8)
  const perSecond = (frames === 29 ? 30_000 / 1_001 : frames) * Math.max(1, division & 0xFF)
  return perSecond * 60 / bpm
}
