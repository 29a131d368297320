import { TICKS_PER_QUARTER, type Metre } from '../document'
import { numberBytes, quantityBytes } from './bytes'

/** A note to be written, in our ticks. */
export interface MidiNoteOut {
  readonly tick: number
  readonly length: number
  readonly note: number
  readonly velocity: number
}

export interface MidiTrackOut {
  readonly name: string
  readonly notes: readonly MidiNoteOut[]
}

export interface MidiOptions {
  /** 0: all in one track; 1: a track with the tempo, then one for each part. */
  readonly format: 0 | 1
  readonly name: string
  readonly tempoBpm: number
  readonly metre: Metre
  /** Where the file ends, in ticks. */
  readonly endTick: number
  /** 1 to 16; 10 is the one for percussion. Source: General MIDI System Level 1. */
  readonly channel: number
}

const NOTE_OFF = 0x80
const NOTE_ON = 0x90
const CLOCKS_A_QUARTER = 24
const THIRTY_SECONDS_A_QUARTER = 8

interface TimedEvent {
  readonly tick: number
  /** Of events at one tick: settings, then what ends, then what begins. */
  readonly order: number
  readonly bytes: readonly number[]
}

/**
 * Writes a Standard MIDI File of 960 ticks a quarter. Every event has its status written out, so that no reader stumbles over running status.
 * Source: Standard MIDI Files 1.0 (MMA RP-001).
 */
export function writeMidi(tracks: readonly MidiTrackOut[], options: MidiOptions): Uint8Array {
  const { format, name, metre, endTick, channel } = options
  const settings = [
    meta(0, 0x51, numberBytes(Math.round(60_000_000 / options.tempoBpm), 3)),
    meta(0, 0x58, [metre.beats, Math.log2(metre.unit), CLOCKS_A_QUARTER * 4 / metre.unit, THIRTY_SECONDS_A_QUARTER]),
  ]
  const chunks = format === 0
    ? [track(name, [...settings, ...tracks.flatMap(({ notes }) => noteEvents(notes, channel))], endTick)]
    : [track(name, settings, endTick), ...tracks.map(one => track(one.name, noteEvents(one.notes, channel), endTick))]
  const header = chunk('MThd', [...numberBytes(format, 2), ...numberBytes(chunks.length, 2), ...numberBytes(TICKS_PER_QUARTER, 2)])
  return joined([header, ...chunks])
}

/** A note is let go at the latest where the same note begins again: a key can't be pressed twice. */
function noteEvents(notes: readonly MidiNoteOut[], channel: number): TimedEvent[] {
  const sorted = [...notes].sort((a, b) => a.tick - b.tick)
  const nextOn = new Map<number, number>()
  return sorted.reverse().flatMap(({ tick, length, note, velocity }) => {
    const end = Math.max(tick + 1, Math.min(tick + length, nextOn.get(note) ?? Infinity))
    nextOn.set(note, tick)
    return [
      { tick, order: 2, bytes: [NOTE_ON | channel - 1, note, velocity] },
      { tick: end, order: 1, bytes: [NOTE_OFF | channel - 1, note, 64] },
    ]
  })
}

function meta(tick: number, type: number, data: readonly number[]): TimedEvent {
  return { tick, order: 0, bytes: [0xFF, type, ...quantityBytes(data.length), ...data] }
}

function track(name: string, events: readonly TimedEvent[], endTick: number): Uint8Array {
  const sorted = [meta(0, 0x03, [...new TextEncoder().encode(name)]), ...events].sort((a, b) => a.tick - b.tick || a.order - b.order)
  const bytes: number[] = []
  let at = 0
  // What still sounds at the end is let go there.
  for (const { tick, bytes: event } of sorted) {
    const to = Math.min(tick, endTick)
    bytes.push(...quantityBytes(to - at), ...event)
    at = to
  }
  bytes.push(...quantityBytes(endTick - at), 0xFF, 0x2F, 0)
  return chunk('MTrk', bytes)
}

function chunk(id: string, data: readonly number[]): Uint8Array {
  return Uint8Array.from([...new TextEncoder().encode(id), ...numberBytes(data.length, 4), ...data])
}

function joined(parts: readonly Uint8Array[]): Uint8Array {
  const out = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0))
  let at = 0
  for (const part of parts) {
    out.set(part, at)
    at += part.length
  }
  return out
}
