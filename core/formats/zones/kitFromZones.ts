import { groupBy } from '../../groupBy'
import {
  emptyKit, emptyPad, KIT_SCHEMA_VERSION, MOST_ALTERNATES, MOST_LAYERS, MOST_OUTPUTS, MOST_PADS, PADS_PER_BANK,
  type Kit, type Layer, type Pad, type SoundRef,
} from '../../kit/document'
import { withWholeTurns } from '../../kit/turns'
import { PERCUSSION_KINDS } from '../../kit/percussionMap'
import { equalRanges } from '../../kit/ranges'
import { kindFromName } from '../../search/kindFromName'
import type { NotCarried, Zone } from './zone'

const MOST_GROUPS = 32
const MOST_CENTS = 4800

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
}

/**
 * Makes a kit of zones: one pad for each note on which zones sound, more where zones of one note differ in what only a whole
 * pad can have (pan, envelope, filter, choke group, output). Pads come in the order of their notes.
 */
export function kitFromZones({ name, zones, sounds, isPercussion }: ZonesToKit): KitOfZones {
  const told = new Told()
  const groups = new Map(([...new Set(zones.map(zone => zone.chokeGroup))].filter(group => group !== null)).map((group, i) => [group, i + 1]))
  if (groups.size > MOST_GROUPS) told.add(name, `It has ${groups.size} choke groups; a kit has ${MOST_GROUPS}. Pads of the others are in none.`)
  const groupOf = keepNumbers(groups)
  const byPad = new Map<string, { note: number, zones: Zone[] }>()
  for (const zone of zones) {
    if (!sounds[zone.sample]) continue
    for (let note = zone.lowNote; note <= zone.highNote; note++) {
      const key = `${String(note).padStart(3, '0')} ${JSON.stringify([zone.pan, zone.play, zone.envelope, zone.filter, zone.chokeGroup, zone.output, zone.polyphony, zone.choice !== null])}`
      const held = byPad.get(key) ?? { note, zones: [] }
      held.zones.push(zone)
      byPad.set(key, held)
    }
  }
  // Sorted by note alone: zones of one note keep the order of the file.
  const filled = [...byPad.values()].sort((a, b) => a.note - b.note)
  if (filled.length > MOST_PADS) told.add(name, `It needs ${filled.length} pads; a kit has ${MOST_PADS}. Those above note ${filled[MOST_PADS - 1]!.note} were left out.`)
  const outputs = Math.min(MOST_OUTPUTS, 1 + Math.max(0, ...zones.map(zone => zone.output)))
  const pads = filled.slice(0, MOST_PADS).map(({ note, zones: own }) => padOf(note, own, { sounds, isPercussion, groupOf, outputs, told }))
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
      pads: [...pads, ...Array.from({ length: count - pads.length }, (_, i) => emptyPad(free[i] ?? 127))],
    },
    notCarried: told.list,
  }
}

/** What is told, each thing once, with how often it was met. */
class Told {
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
  readonly told: Told
}

function padOf(note: number, zones: readonly Zone[], { sounds, isPercussion, groupOf, outputs, told }: Around): Pad {
  const first = zones[0]!
  const isChosen = first.choice !== null
  const name = (first.name || sounds[first.sample]!.name).slice(0, 200)
  const where = `Note ${note}, ${name}`
  const most = isChosen ? MOST_ALTERNATES : MOST_LAYERS
  const sorted = isChosen ? zones.toSorted((a, b) => a.choice!.low - b.choice!.low) : zones
  if (zones.length > most) told.add(where, `It has ${zones.length} zones; a pad takes ${most}. The others were left out.`)
  const kept = sorted.slice(0, most)
  if (isChosen) tellUnevenChoices(kept, where, told)
  const { attackSeconds, holdSeconds, decaySeconds, releaseSeconds } = first.envelope
  return {
    ...emptyPad(note),
    name,
    role: kindFromName(name)?.path ?? (isPercussion ? PERCUSSION_KINDS[note] ?? null : null),
    pan: clamp(first.pan, -1, 1),
    play: first.play,
    envelope: {
      attackSeconds: clamp(attackSeconds, 0, 10),
      holdSeconds: clamp(holdSeconds, 0, 30),
      decaySeconds: decaySeconds === null ? null : clamp(decaySeconds, 0.001, 60),
      releaseSeconds: clamp(releaseSeconds, 0.001, 60),
    },
    filter: first.filter && { ...first.filter, cutoffHz: clamp(first.filter.cutoffHz, 20, 20_000), resonanceDb: clamp(first.filter.resonanceDb, 0, 30) },
    chokeGroup: first.chokeGroup === null ? null : groupOf(first.chokeGroup),
    polyphony: first.polyphony === null ? null : clamp(Math.round(first.polyphony), 1, 64),
    output: first.output === 0 || first.output >= outputs ? 'main' : `out-${first.output + 1}`,
    alternate: isChosen ? 0 : null,
    layers: turnsInOrder(kept.map(zone => layerOf(zone, note, sounds[zone.sample]!, where, told)), isChosen),
  }
}

/** Turns are told by their velocities: those of one range are numbered without a gap. */
function turnsInOrder(layers: readonly Layer[], isChosen: boolean): readonly Layer[] {
  return isChosen ? layers.map(layer => ({ ...layer, turn: null })) : withWholeTurns(layers)
}

function layerOf(zone: Zone, note: number, sound: SoundRef, where: string, told: Told): Layer {
  const cents = zone.tuneCents + (note - zone.rootNote) * zone.keytrackCents
  if (Math.abs(cents) > MOST_CENTS) told.add(where, `It is tuned by ${Math.round(cents)} cents; a pad can be tuned by ${MOST_CENTS} at most, and is.`)
  if (zone.gainDb > 24 || zone.gainDb < -96) told.add(where, `Its gain of ${zone.gainDb.toFixed(1)} dB is outside of -96 to 24 dB, and was held there.`)
  const startFrame = clamp(Math.round(zone.startFrame), 0, sound.frames - 1)
  const endFrame = clamp(Math.round(zone.endFrame), startFrame + 1, sound.frames)
  const lowVelocity = clamp(zone.lowVelocity, 1, 127)
  const highVelocity = clamp(zone.highVelocity, lowVelocity, 127)
  return {
    sound, lowVelocity, highVelocity,
    fadeInVelocities: clamp(zone.fadeInVelocities, 0, highVelocity - lowVelocity),
    fadeOutVelocities: clamp(zone.fadeOutVelocities, 0, highVelocity - lowVelocity),
    turn: zone.turn === null ? null : clamp(zone.turn, 1, MOST_LAYERS),
    gainDb: clamp(zone.gainDb, -96, 24),
    tuneCents: clamp(cents, -MOST_CENTS, MOST_CENTS),
    reverse: zone.reverse,
    startFrame, endFrame,
    fadeInFrames: clamp(Math.round(zone.fadeInFrames), 0, endFrame - startFrame),
    fadeOutFrames: clamp(Math.round(zone.fadeOutFrames), 0, endFrame - startFrame),
  }
}

function tellUnevenChoices(zones: readonly Zone[], where: string, told: Told): void {
  const even = equalRanges(zones.length)
  const same = zones.every((zone, i) => zone.choice!.low === even[i]!.low && zone.choice!.high === even[i]!.high)
  if (!same) told.add(where, 'Its zones are chosen by ranges of a controller that are not of one width; as alternates they have equal ranges.')
}

/** Notes for the empty pads that fill up the last bank: free ones from 36 up, then any. */
function freeNotes(pads: readonly Pad[]): number[] {
  const taken = groupBy(pads, pad => pad.note)
  return Array.from({ length: 128 }, (_, i) => (36 + i) % 128).filter(note => !taken.has(note))
}

function clamp(value: number, low: number, high: number): number {
  return Math.max(low, Math.min(high, value))
}
