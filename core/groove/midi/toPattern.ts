import { PERCUSSION_KEYS, PERCUSSION_KINDS } from '../../kit/percussionMap'
import { groupBy } from '../../groupBy'
import { barTicks, clampTempo, metreSchema, MOST_BARS, MOST_HITS, MOST_PARTS, PATTERN_SCHEMA_VERSION, STRAIGHT, type Hit, type Metre, type Part, type Pattern } from '../document'
import { ordered } from '../edits'
import type { MidiNote, MidiSong } from './read'
import { counted, whole } from '../../wording'

export interface MidiChoice {
  readonly name: string
  /** Channels that are taken, 1 to 16; without them channel 10, or all where it has no notes. */
  readonly channels?: ReadonlySet<number>
  /** The first bar that is taken, from 0, and how many. */
  readonly fromBar?: number
  readonly bars?: number
}

/** A pattern made of a MIDI file, and what of the file did not go into it. */
export interface MidiPattern {
  readonly pattern: Pattern
  readonly notes: readonly string[]
  /** Channels with notes, and how many each has. */
  readonly channels: ReadonlyMap<number, number>
  /** Bars that the file has. */
  readonly bars: number
}

const PERCUSSION_CHANNEL = 10

/** The channels that a pattern is made of unless others are chosen: that of percussion where there is one (General MIDI 1), else all. */
export function usualChannels(channels: ReadonlyMap<number, number>): number[] {
  return channels.has(PERCUSSION_CHANNEL) ? [PERCUSSION_CHANNEL] : [...channels.keys()]
}

const COMMON_METRE: Metre = { beats: 4, unit: 4 }

/**
 * Makes a pattern of a MIDI file: a part for each note number, named by its track where that holds one note alone, else by the
 * percussion key. A pattern has one tempo and one metre: the first of the file.
 */
export function patternFromMidi(song: MidiSong, choice: MidiChoice): MidiPattern {
  const warnings = [...song.problems]
  const all = song.tracks.flatMap((track) => {
    const isAlone = track.notes.every(note => note.note === track.notes[0]!.note)
    return track.notes.map(note => ({ ...note, trackName: track.name, isAlone }))
  })
  const channels = new Map([...groupBy(all, note => note.channel)].map(([channel, notes]) => [channel, notes.length] as const).sort(([a], [b]) => a - b))
  const wanted = choice.channels ?? new Set(usualChannels(channels))
  const left = all.filter(note => !wanted.has(note.channel)).length
  if (left > 0) warnings.push(`Notes of other channels that were left out: ${left}.`)
  const metre = metreOf(song, warnings)
  const tempo = tempoOf(song, warnings)
  const bar = barTicks(metre)
  const fileBars = Math.max(1, Math.ceil(Math.max(song.endTick, lastTick(all)) / bar))
  const fromBar = Math.max(0, Math.min(fileBars - 1, choice.fromBar ?? 0))
  const bars = Math.max(1, Math.min(MOST_BARS, choice.bars ?? fileBars - fromBar, fileBars - fromBar))
  if (choice.bars === undefined && bars < fileBars - fromBar) warnings.push(`The file has ${counted(fileBars, 'bar')}; ${counted(bars, 'bar was', 'bars were')} taken, from bar ${fromBar + 1} on.`)
  const [from, to] = [fromBar * bar, (fromBar + bars) * bar]
  const taken = all.filter(note => wanted.has(note.channel) && note.tick >= from && note.tick < to)
  const kept = taken.slice(0, MOST_HITS)
  if (kept.length < taken.length) warnings.push(`The file has ${counted(taken.length, 'note')}; a pattern holds ${whole(MOST_HITS)}. Left out at the end: ${whole(taken.length - kept.length)}.`)
  const groups = [...groupBy(kept, note => note.note)].sort(([a], [b]) => a - b).slice(0, MOST_PARTS)
  const parts = groups.map(([note, hits], i): Part => ({
    id: `part-${i + 1}`,
    name: partName(note, hits[0]!),
    role: PERCUSSION_KINDS[note] ?? null,
    note,
    hits: ordered(hits.map((hit): Hit => ({ tick: hit.tick - from, velocity: hit.velocity, length: hit.length }))),
  }))
  const pattern: Pattern = { schema: PATTERN_SCHEMA_VERSION, name: choice.name.slice(0, 120) || 'From a MIDI file', tempoBpm: tempo, metre, bars, swing: STRAIGHT, parts }
  return { pattern, notes: warnings, channels, bars: fileBars }
}

function lastTick(notes: readonly MidiNote[]): number {
  return notes.reduce((last, note) => Math.max(last, note.tick + 1), 0)
}

function partName(note: number, { trackName, isAlone }: { readonly trackName: string, readonly isAlone: boolean }): string {
  return ((isAlone && trackName) || PERCUSSION_KEYS[note] || `Note ${note}`).slice(0, 120)
}

function metreOf(song: MidiSong, warnings: string[]): Metre {
  const [first] = song.metres
  const changes = song.metres.filter(({ beats, unit }) => beats !== first!.beats || unit !== first!.unit).length
  if (changes > 0) warnings.push(`The metre changes (${changes}); the pattern has the first, ${first!.beats}/${first!.unit}.`)
  const parsed = metreSchema.safeParse(first && { beats: first.beats, unit: first.unit })
  if (first && !parsed.success) warnings.push(`The metre ${first.beats}/${first.unit} is beyond what a pattern has; it is taken as 4/4.`)
  return parsed.success ? parsed.data : COMMON_METRE
}

function tempoOf(song: MidiSong, warnings: string[]): number {
  const bpm = song.tempos[0]?.bpm ?? 120
  const changes = song.tempos.filter(tempo => Math.abs(tempo.bpm - bpm) > 0.01).length
  if (changes > 0) warnings.push(`The tempo changes (${changes}); the pattern has the first, ${bpm.toFixed(2)} BPM.`)
  const kept = clampTempo(bpm)
  if (Math.abs(kept - bpm) > 0.01) warnings.push(`Its tempo of ${bpm.toFixed(2)} BPM is beyond what a pattern has; it is ${kept}.`)
  return kept
}
