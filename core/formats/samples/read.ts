import type { DecodedAudio } from '../../audio/decoded'
import type { MiddleC } from '../../audio/notes'
import { EmporionError } from '../../errors'
import { groupBy } from '../../groupBy'
import { PLAIN_ENVELOPE, type SoundRef } from '../../kit/document'
import { velocityRanges } from '../../kit/ranges'
import { isKind } from '../../search/kinds'
import { inNaturalOrder } from '../../search/naturalKey'
import type { Identify, ReadKit } from '../read'
import { depthOf, stemOf } from '../sfz/read'
import { SoundTable } from '../soundTable'
import { kitFromZones } from '../zones/kitFromZones'
import { PLAIN_ZONE, type NotCarried, type Zone } from '../zones/zone'
import { readIndex, type SampleEntry } from './index'
import { isByNote, numberingOf, placesOf, type Numbering } from './numbering'

/** A file of a set, decoded. */
export interface SampleFile {
  readonly path: string
  readonly audio: DecodedAudio
}

export interface SampleSetToRead {
  readonly name: string
  readonly files: readonly SampleFile[]
  /** The text of the list that lies beside them, if there is one. */
  readonly index?: string
  /** How the names are read; without it they are looked at. */
  readonly numbering?: Numbering
  readonly middleC: MiddleC
  readonly identify: Identify
}

/** A kit, and how its files were told apart. */
export interface ReadSampleSet extends ReadKit {
  readonly numbering: Numbering | 'list'
}

const FIRST_NOTE = 36
const MOST_FILES = 2_048

/**
 * Makes a kit of a folder of numbered or note-named WAVE files: by the list that lies beside them, or by their names. Files of one
 * place are velocity layers, in the order of their names.
 *
 * @throws EmporionError `unreadable` when there is no file
 */
export function readSampleSet({ name, files, index, numbering, middleC, identify }: SampleSetToRead): ReadSampleSet {
  if (files.length === 0) throw new EmporionError('unreadable', { what: `"${name}" holds no audio file that can be read.`, next: 'Choose a folder with WAVE files.' })
  if (files.length > MOST_FILES) throw new EmporionError('limit', { what: `"${name}" holds ${files.length} audio files; a kit is made of ${MOST_FILES} at most.`, next: 'To bring in so many, add the folder as a source in the Library.' })
  const table = new SoundTable(identify)
  const sorted = inNaturalOrder(files, file => file.path)
  const sounds = sorted.map(file => table.add(stemOf(file.path), { channels: file.audio.channels, sampleRate: file.audio.sampleRate, depth: depthOf(file.audio) }))
  const entries = index === undefined || numbering !== undefined ? undefined : readIndex(index)
  const listed = entries && byList(sorted, sounds, entries)
  if (listed) return { ...kitOf(name, listed.zones, sounds.map((sound, i) => ({ ...sound, name: listed.names.get(i) ?? sound.name })), listed.roles), audio: table.audio, missing: listed.missing, numbering: 'list' }
  const numbered = sorted.map(({ path, audio }) => ({ stem: stemOf(path), rootNote: audio.facts.embedded.rootNote }))
  const way = numbering ?? numberingOf(numbered, middleC)
  const { zones, warnings } = byNames(sounds, placesOf(numbered, way, middleC), way)
  const made = kitOf(name, zones, sounds, new Map())
  return { ...made, notCarried: [...warnings, ...made.notCarried], audio: table.audio, missing: [], numbering: way }
}

function kitOf(name: string, zones: readonly Zone[], sounds: readonly SoundRef[], roles: ReadonlyMap<number, string>): Pick<ReadKit, 'kit' | 'notCarried'> {
  const { kit, notCarried } = kitFromZones({ name, zones, sounds, isPercussion: false })
  return { kit: { ...kit, pads: kit.pads.map(pad => pad.layers.length > 0 && roles.has(pad.note) ? { ...pad, role: roles.get(pad.note)! } : pad) }, notCarried }
}

function plainZone(sample: number, frames: number, note: number): Zone {
  return {
    ...PLAIN_ZONE, sample, name: '', lowNote: note, highNote: note, rootNote: note, keytrackCents: 0, lowVelocity: 1, highVelocity: 127,
    gainDb: 0, pan: 0, tuneCents: 0, startFrame: 0, endFrame: frames, play: 'one-shot', envelope: PLAIN_ENVELOPE, filter: null,
  }
}

function byList(files: readonly SampleFile[], sounds: readonly SoundRef[], entries: readonly SampleEntry[]): { zones: Zone[], roles: Map<number, string>, names: Map<number, string>, missing: string[] } | undefined {
  const places = new Map(files.map((file, i) => [fileName(file.path), i]))
  const missing: string[] = []
  const roles = new Map<number, string>()
  const names = new Map<number, string>()
  const zones = entries.flatMap((entry): Zone[] => {
    const at = places.get(fileName(entry.file))
    if (at === undefined) {
      missing.push(`${entry.file}: it is in the list, but not in the folder.`)
      return []
    }
    if (entry.layer !== '') names.set(at, entry.layer)
    if (entry.kind !== null && isKind(entry.kind)) roles.set(entry.note, entry.kind)
    return [{ ...plainZone(at, sounds[at]!.frames, entry.note), name: entry.name, lowVelocity: Math.min(entry.lowVelocity, entry.highVelocity), highVelocity: entry.highVelocity, turn: entry.turn, chokeGroup: entry.chokeGroup }]
  })
  return zones.length > 0 ? { zones, roles, names, missing } : undefined
}

function fileName(path: string): string {
  return path.slice(path.lastIndexOf('/') + 1).toLowerCase()
}

function byNames(sounds: readonly SoundRef[], places: readonly (number | undefined)[], way: Numbering): { zones: Zone[], warnings: NotCarried[] } {
  const warnings: NotCarried[] = []
  const isNote = isByNote(way)
  const known = places.filter(place => place !== undefined)
  // Pads are counted from 0 or from 1; the first is on the usual first note.
  const first = isNote ? 0 : Math.min(...known, 1)
  const noteOf = (place: number) => isNote ? place : FIRST_NOTE + place - first
  const highest = Math.max(FIRST_NOTE - 1, ...known.map(noteOf))
  let next = highest
  const notes = places.map((place, i) => {
    if (place !== undefined && noteOf(place) <= 127) return noteOf(place)
    if (place === undefined) warnings.push({ where: sounds[i]!.name, what: `Its name says no ${isNote ? 'note' : 'number'}; it was put behind the others.` })
    return ++next
  })
  const zones: Zone[] = []
  for (const [note, indexes] of groupBy(notes.map((_, i) => i), i => notes[i]!)) {
    if (note > 127) {
      for (const i of indexes) warnings.push({ where: sounds[i]!.name, what: 'No note is left for it up to 127; it was left out.' })
      continue
    }
    const ranges = velocityRanges(Math.min(indexes.length, 16))
    indexes.forEach((i, at) => {
      const range = ranges[Math.min(at, ranges.length - 1)]!
      zones.push({ ...plainZone(i, sounds[i]!.frames, note), lowVelocity: range.low, highVelocity: range.high })
    })
  }
  return { zones, warnings }
}
