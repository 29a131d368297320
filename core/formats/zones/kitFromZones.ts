import { groupBy } from '../../groupBy'
import {
  emptyKit, emptyPad, KIT_SCHEMA_VERSION, MOST_GROUPS, MOST_LAYERS, MOST_OUTPUTS, MOST_PADS, PADS_PER_BANK,
  type Articulation, type Envelope, type Filter, type Kit, type Layer, type NoteRange, type Pad, type SoundRef,
} from '../../kit/document'
import { notesOf } from '../../kit/noteEdits'
import { withWholeTurns } from '../../kit/turns'
import { PERCUSSION_KINDS } from '../../kit/percussionMap'
import { equalRanges } from '../../kit/ranges'
import { kindFromName } from '../../search/kindFromName'
import type { NotCarried, Zone } from './zone'

const MOST_CENTS = 4800
const MOST_TRACK = 1200

/** A kit made of zones, and what of them it could not take. */
export interface KitOfZones {
  readonly kit: Kit
  readonly notCarried: readonly NotCarried[]
}

export interface ZonesToKit {
  readonly name: string
  readonly zones: readonly Zone[]
  /** The sounds that the zones refer to, in their order; undefined for one that is missing. */
  readonly sounds: readonly (SoundRef | undefined)[]
  /** Notes mean instruments of the General MIDI percussion key map. */
  readonly isPercussion: boolean
  readonly articulations?: readonly Articulation[]
  /** The one in force before any is chosen. */
  readonly articulation?: string | null
  /** Voices that choke groups have at once. */
  readonly groupVoices?: ReadonlyMap<number, number>
}

/** Notes that are next to one another and on which the same zones sound. */
interface Stretch {
  readonly low: number
  high: number
  readonly zones: readonly Zone[]
}

/**
 * Makes a kit of zones: one pad for each note, or stretch of notes, on which the same zones sound, more where zones differ in what
 * only a whole pad can have (how it plays, chokes, output, articulation, response to velocity). Pads come in the order of their
 * notes. Where there are more than a kit has, each note has one first.
 */
export function kitFromZones({ name, zones, sounds, isPercussion, articulations = [], articulation = null, groupVoices = new Map() }: ZonesToKit): KitOfZones {
  const warnings = new Warnings()
  const named = zones.flatMap(zone => [zone.chokeGroup, ...zone.chokedBy ?? []]).filter(group => group !== null)
  const groups = new Map([...new Set(named)].map((group, i) => [group, i + 1]))
  if (groups.size > MOST_GROUPS) warnings.add(name, `It has ${groups.size} choke groups; a kit has ${MOST_GROUPS}. Pads of the others are in none.`)
  const groupOf = keepNumbers(groups)
  const stretches = stretchesOf(zones.filter(zone => sounds[zone.sample]))
  const candidates = stretches.flatMap(({ low, high, zones: own }) => [...groupBy(own, padKey).values()].map((ofPad, place) => ({ low, high, place, zones: ofPad })))
  if (candidates.length > MOST_PADS) warnings.add(name, `It needs ${candidates.length} pads; a kit has ${MOST_PADS}. Each note has one first, and ${candidates.length - MOST_PADS} more were left out.`)
  // Sorted by place and note alone: zones of one note keep the order of the file.
  const kept = candidates.toSorted((a, b) => a.place - b.place).slice(0, MOST_PADS).sort((a, b) => a.low - b.low || a.place - b.place)
  const outputs = Math.min(MOST_OUTPUTS, 1 + Math.max(0, ...zones.map(zone => zone.output)))
  const pads = kept.map(({ low, high, zones: own }) => padOf(low, high, own, { sounds, isPercussion, groupOf, outputs, warnings }))
  const blank = emptyKit(name)
  const count = Math.max(PADS_PER_BANK, Math.ceil(pads.length / PADS_PER_BANK) * PADS_PER_BANK)
  const free = freeNotes(pads)
  return {
    kit: {
      ...blank,
      schema: KIT_SCHEMA_VERSION,
      name: name.trim().slice(0, 120) || 'Kit',
      polyphony: 128,
      outputs: Array.from({ length: outputs }, (_, i) => i === 0 ? { id: 'main', name: 'Main' } : { id: `out-${i + 1}`, name: `Output ${i + 1}` }),
      articulations: [...articulations],
      articulation,
      groupPolyphony: [...groupVoices].flatMap(([group, voices]) => {
        const number = groups.has(group) ? groupOf(group) : null
        return number === null ? [] : [{ group: number, voices: clamp(Math.round(voices), 1, 256) }]
      }),
      pads: [...pads, ...Array.from({ length: count - pads.length }, (_, i) => emptyPad(free[i] ?? 127))],
    },
    notCarried: warnings.list,
  }
}

/** What zones must share to be on one pad. */
function padKey({ play, chokeGroup, chokedBy, chokeSeconds, output, polyphony, choice, articulation, velocityTrack, velocityCurve }: Zone): string {
  return JSON.stringify([play, chokeGroup, chokedBy, chokeSeconds, output, polyphony, choice?.controller, articulation, velocityTrack, velocityCurve])
}

function stretchesOf(zones: readonly Zone[]): Stretch[] {
  const found: Stretch[] = []
  const onNotes = Array.from({ length: 128 }, (): Zone[] => [])
  for (const zone of zones) {
    for (let note = Math.max(0, zone.lowNote); note <= Math.min(127, zone.highNote); note++) onNotes[note]!.push(zone)
  }
  for (const [note, own] of onNotes.entries()) {
    const last = found.at(-1)
    if (last && last.high === note - 1 && last.zones.length === own.length && own.every((zone, i) => zone === last.zones[i])) last.high = note
    else found.push({ low: note, high: note, zones: own })
  }
  return found.filter(stretch => stretch.zones.length > 0)
}

/** What is reported, each thing once, with how often it was met. */
class Warnings {
  private readonly counts = new Map<string, { where: string, what: string }>()

  get list(): NotCarried[] {
    return [...this.counts.values()]
  }

  add(where: string, what: string): void {
    this.counts.set(`${where}\n${what}`, { where, what })
  }
}

/** Group numbers that fit stay as they are; if any does not, all are numbered anew. */
function keepNumbers(groups: ReadonlyMap<number, number>): (group: number) => number | null {
  if ([...groups.keys()].every(group => group >= 1 && group <= MOST_GROUPS)) return group => group
  return (group) => {
    const number = groups.get(group)!
    return number <= MOST_GROUPS ? number : null
  }
}

interface Around {
  readonly sounds: readonly (SoundRef | undefined)[]
  readonly isPercussion: boolean
  readonly groupOf: (group: number) => number | null
  readonly outputs: number
  readonly warnings: Warnings
}

function padOf(low: number, high: number, zones: readonly Zone[], { sounds, isPercussion, groupOf, outputs, warnings }: Around): Pad {
  const first = zones[0]!
  const isChosen = first.choice !== null
  const range = rangeOf(first, low, high)
  const note = clamp(first.rootNote, low, high)
  const name = (first.name || sounds[first.sample]!.name).slice(0, 200)
  const where = `Note ${note}, ${name}`
  const sorted = isChosen ? zones.toSorted((a, b) => a.choice!.low - b.choice!.low) : zones
  if (zones.length > MOST_LAYERS) warnings.add(where, `It has ${zones.length} zones; a pad takes ${MOST_LAYERS}. The others were left out.`)
  const kept = sorted.slice(0, MOST_LAYERS)
  if (isChosen) warnOfUnevenChoices(kept, where, warnings)
  const filters = kept.map(filterOf)
  const own: OfPad = {
    pan: clamp(first.pan, -1, 1),
    envelope: envelopeOf(first),
    // A layer without a filter has none only where its pad has none.
    filter: filters.every(filter => filter !== null) ? filters[0]! : null,
    range,
  }
  const layers = kept.map((zone, i) => layerOf(zone, { note, sound: sounds[zone.sample]!, filter: filters[i]!, pad: own, where, warnings }))
  const role = kindFromName(name)?.path ?? (isPercussion ? PERCUSSION_KINDS[note] ?? null : null)
  const groupsOf = (groups: readonly number[]) => groups.flatMap(group => groupOf(group) ?? [])
  return {
    ...emptyPad(note),
    name,
    role,
    ...own,
    play: first.play,
    velocityTrack: clamp(first.velocityTrack, -1, 1),
    velocityCurve: first.velocityCurve,
    chokeGroup: first.chokeGroup === null ? null : groupOf(first.chokeGroup),
    chokedBy: first.chokedBy && groupsOf(first.chokedBy),
    chokeSeconds: clamp(first.chokeSeconds, 0, 30),
    polyphony: first.polyphony === null ? null : clamp(Math.round(first.polyphony), 1, 64),
    output: first.output === 0 || first.output >= outputs ? 'main' : `out-${first.output + 1}`,
    alternate: isChosen ? 0 : null,
    alternateController: first.choice?.controller ?? null,
    articulation: first.articulation,
    layers: isChosen ? layers.map(layer => ({ ...layer, turn: null })) : withWholeTurns(layers),
  }
}

/** What layers have of their own where they differ from the pad. */
type OfPad = Pick<Pad, 'pan' | 'envelope' | 'filter' | 'range'>

function rangeOf({ rootNote, keytrackCents }: Zone, low: number, high: number): NoteRange | null {
  return low === high ? null : { low, high, root: clamp(rootNote, 0, 127), trackCents: clamp(keytrackCents, -MOST_TRACK, MOST_TRACK) }
}

function envelopeOf({ envelope: { attackSeconds, holdSeconds, decaySeconds, releaseSeconds } }: Zone): Envelope {
  return {
    attackSeconds: clamp(attackSeconds, 0, 10),
    holdSeconds: clamp(holdSeconds, 0, 30),
    decaySeconds: decaySeconds === null ? null : clamp(decaySeconds, 0.001, 60),
    releaseSeconds: clamp(releaseSeconds, 0.001, 60),
  }
}

function filterOf({ filter }: Zone): Filter | null {
  return filter && { ...filter, cutoffHz: clamp(filter.cutoffHz, 20, 20_000), resonanceDb: clamp(filter.resonanceDb, 0, 30) }
}

/** A value where it is another than the pad's. */
function unlike<T>(value: T, ofPad: T): T | null {
  return JSON.stringify(value) === JSON.stringify(ofPad) ? null : value
}

interface ForLayer {
  /** The note that the pad is played by. */
  readonly note: number
  readonly sound: SoundRef
  readonly filter: Filter | null
  readonly pad: OfPad
  readonly where: string
  readonly warnings: Warnings
}

function layerOf(zone: Zone, { note, sound, filter, pad, where, warnings }: ForLayer): Layer {
  const notes = pad.range && rangeOf(zone, pad.range.low, pad.range.high)
  // On one note alone the distance from the root is part of the tuning.
  const cents = zone.tuneCents + (notes ? (clamp(zone.rootNote, 0, 127) - zone.rootNote) * zone.keytrackCents : (note - zone.rootNote) * zone.keytrackCents)
  if (Math.abs(cents) > MOST_CENTS) warnings.add(where, `It is tuned by ${Math.round(cents)} cents; a pad can be tuned by ${MOST_CENTS} at most, and is.`)
  if (notes && Math.abs(zone.keytrackCents) > MOST_TRACK) warnings.add(where, `Its pitch follows the keys by ${Math.round(zone.keytrackCents)} cents; a pad follows by ${MOST_TRACK} at most, and does.`)
  if (zone.gainDb > 24 || zone.gainDb < -96) warnings.add(where, `Its gain of ${zone.gainDb.toFixed(1)} dB is outside of -96 to 24 dB, and was held there.`)
  const startFrame = clamp(Math.round(zone.startFrame), 0, sound.frames - 1)
  const endFrame = clamp(Math.round(zone.endFrame), startFrame + 1, sound.frames)
  const lowVelocity = clamp(zone.lowVelocity, 1, 127)
  const highVelocity = clamp(zone.highVelocity, lowVelocity, 127)
  return {
    sound,
    pan: unlike(clamp(zone.pan, -1, 1), pad.pan),
    envelope: unlike(envelopeOf(zone), pad.envelope),
    filter: pad.filter === null ? filter : unlike(filter, pad.filter),
    notes: notes && unlike(notes, pad.range!),
    lowVelocity, highVelocity,
    fadeInVelocities: clamp(zone.fadeInVelocities, 0, highVelocity - lowVelocity),
    fadeOutVelocities: clamp(zone.fadeOutVelocities, 0, highVelocity - lowVelocity),
    turn: zone.turn === null ? null : clamp(zone.turn, 1, MOST_LAYERS),
    chance: zone.chance,
    gainDb: clamp(zone.gainDb, -96, 24),
    tuneCents: clamp(cents, -MOST_CENTS, MOST_CENTS),
    reverse: zone.reverse,
    startFrame, endFrame,
    fadeInFrames: clamp(Math.round(zone.fadeInFrames), 0, endFrame - startFrame),
    fadeOutFrames: clamp(Math.round(zone.fadeOutFrames), 0, endFrame - startFrame),
  }
}

function warnOfUnevenChoices(zones: readonly Zone[], where: string, warnings: Warnings): void {
  const even = equalRanges(zones.length)
  const same = zones.every((zone, i) => zone.choice!.low === even[i]!.low && zone.choice!.high === even[i]!.high)
  if (!same) warnings.add(where, 'Its zones are chosen by ranges of a controller that are not of one width; as alternates they have equal ranges.')
}

/** Notes for the empty pads that fill up the last bank: free ones from 36 up, then any. */
function freeNotes(pads: readonly Pad[]): number[] {
  const taken = new Set(pads.flatMap(notesOf))
  return Array.from({ length: 128 }, (_, i) => (36 + i) % 128).filter(note => !taken.has(note))
}

function clamp(value: number, low: number, high: number): number {
  return Math.max(low, Math.min(high, value))
}
