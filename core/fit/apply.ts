import { toDb } from '../audio/level'
import { resampledFrames } from '../audio/resample'
import { bankLetter, holds, slotsOf, type Target } from './target'
import { emptyPad, PADS_PER_BANK, PLAIN_ENVELOPE, type Kit, type Layer, type Pad } from '../kit/document'
import { withWholeTurns } from '../kit/turns'
import type { Identify } from '../formats/read'
import { sampleNames, type Named } from '../formats/samples/naming'
import type { MadeKit, MadeSample } from '../formats/write'
import { arrange, type Arranged, type Arranging } from './arrange'
import { bakeUnit, type Audio, type Baking } from './bake'
import { peakOf } from './measure'
import type { FitPlan, PlanRow } from './plan'
import { reshape } from './reshape'
import { sampleKey } from './sampleKey'
import { chokeOn, keptGroups, placedCents, type PadUnits } from './units'

/** A kit made for its target, where each pad went, and by how much all was lowered. */
export interface Applied {
  readonly made: MadeKit
  readonly arranged: readonly Arranged[]
  readonly loweredDb: number
}

export interface ToApply {
  readonly kit: Kit
  readonly target: Target
  readonly plan: FitPlan
  readonly way: Arranging
  readonly soundOf: (layer: Layer) => Audio
  readonly identify: Identify
  /** Told after each sample; may throw to end the work. */
  readonly onSample?: (done: number, total: number) => void
}

/** What of a pad goes into its samples for a target. */
export function bakingOf(target: Target, { baked, bakesPan }: PadUnits): Baking {
  return { baked, gain: !holds(target, 'gain'), pan: bakesPan, placesNote: !holds(target, 'note ranges') }
}

/** A sample that is to be written, without its audio. */
export interface SampleShape {
  readonly frames: number
  readonly channels: number
  readonly sampleRate: number
  readonly depth: MadeSample['depth']
}

/** What a plan leaves, in the order in which it is written. */
interface Ordered {
  readonly rows: readonly PlanRow[]
  readonly arranged: readonly Arranged[]
  readonly units: ReadonlyMap<number, PadUnits>
  /** The same for samples that are one. */
  readonly keyOf: (row: PlanRow) => string
}

type PlanToOrder = Pick<ToApply, 'kit' | 'target' | 'way'> & { readonly plan: Pick<FitPlan, 'rows' | 'pads'> }

function orderOf({ kit, target, plan, way }: PlanToOrder): Ordered {
  const kept = plan.rows.filter(row => row.state === 'kept')
  const units = new Map(plan.pads.map(pad => [pad.padIndex, pad]))
  const arranged = arrange(kit, [...new Set(kept.map(row => row.padIndex))], target, way)
  const slotOf = new Map(arranged.map(place => [place.padIndex, place.slot]))
  return {
    rows: kept.toSorted((a, b) => slotOf.get(a.padIndex)! - slotOf.get(b.padIndex)!), arranged, units,
    keyOf: row => (target.audio.shares ? '' : `${row.padIndex} ${row.at} `) + sampleKey(kit, row.unit, units.get(row.padIndex)!, target) + JSON.stringify(row.variant),
  }
}

/** The kit that plays samples on the target, and their names by their ids. */
function layOut(plan: PlanToOrder, { rows, arranged, units, keyOf }: Ordered, shapeOf: (key: string, row: PlanRow) => SampleShape & { readonly id: string }): { readonly kit: Kit, readonly samples: ReadonlyMap<string, { readonly name: string, readonly title: string, readonly key: string, readonly shape: SampleShape }> } {
  const { kit, target } = plan
  const names = namesFor(kit, target, rows, new Map(arranged.map(place => [place.padIndex, place])))
  const samples = new Map<string, { name: string, title: string, key: string, shape: SampleShape }>()
  const byKey = new Map<string, string>()
  const refs = rows.map((row, i) => {
    const key = keyOf(row)
    const shape = shapeOf(key, row)
    let id = byKey.get(key)
    if (id === undefined) {
      // What is the same to the bit by chance is written for each.
      id = samples.has(shape.id) ? distinctId(shape.id, i) : shape.id
      byKey.set(key, id)
      samples.set(id, { name: names[i]!, title: kit.pads[row.padIndex]!.layers[row.unit.layers[0]!]!.sound.name, key, shape })
    }
    return { id, name: samples.get(id)!.name, frames: shape.frames, sampleRate: shape.sampleRate, channels: shape.channels }
  })
  const layersOf = (place: Arranged) => rows.flatMap((row, i) => row.padIndex === place.padIndex ? [{ row, sound: refs[i]! }] : [])
  const groups = keptGroups(kit, target)
  const bySlot = new Map(arranged.map(place => [place.slot, padFor(kit, target, place, units.get(place.padIndex)!, plan.plan.rows, layersOf(place), groups)]))
  const count = Math.max(PADS_PER_BANK, Math.ceil((1 + Math.max(0, ...arranged.map(place => place.slot))) / PADS_PER_BANK) * PADS_PER_BANK)
  const fixed = target.notes.way === 'fixed'
  const made: Kit = {
    ...kit,
    gainDb: holds(target, 'gain') ? kit.gainDb : 0,
    polyphony: Math.min(kit.polyphony, target.polyphony ?? kit.polyphony),
    target: target.id,
    articulations: holds(target, 'articulations') ? kit.articulations : [],
    articulation: holds(target, 'articulations') ? kit.articulation : null,
    articulationController: null,
    groupPolyphony: holds(target, 'group polyphony') ? kit.groupPolyphony.flatMap(({ group, voices }) => groups.has(group) ? [{ group: groups.get(group)!, voices }] : []) : [],
    outputs: holds(target, 'outputs') ? kit.outputs : kit.outputs.slice(0, 1),
    pads: Array.from({ length: count }, (_, slot) => bySlot.get(slot) ?? { ...emptyPad(Math.min(127, fixed ? target.notes.first + slot : 36 + slot % 92)), output: kit.outputs[0]!.id }),
  }
  return { kit: made, samples }
}

/** What a plan would write, each sample by its shape alone. */
export function shapesOf(plan: PlanToOrder): { readonly kit: Kit, readonly samples: ReadonlyMap<string, SampleShape & Pick<MadeSample, 'name' | 'title'>> } {
  const { kit, samples } = layOut(plan, orderOf(plan), (key, { variant, measure }) => {
    const { fromFrame, toFrame, channels, sampleRate, depth } = variant!
    return { id: key, frames: resampledFrames(Math.min(toFrame, measure.frames) - fromFrame, measure.sampleRate, sampleRate), channels, sampleRate, depth }
  })
  return { kit, samples: new Map([...samples].map(([id, { name, title, shape }]) => [id, { ...shape, name, title }])) }
}

/** Carries out a plan: makes the samples, and the kit that plays them on the target. */
export function applyPlan(toApply: ToApply): Applied {
  const { kit, target, soundOf, identify, onSample } = toApply
  const ordered = orderOf(toApply)
  const audio = new Map<string, Audio>()
  ordered.rows.forEach((row, i) => {
    const key = ordered.keyOf(row)
    if (!audio.has(key)) audio.set(key, reshape(bakeUnit(kit, kit.pads[row.padIndex]!, row.unit, bakingOf(target, ordered.units.get(row.padIndex)!), soundOf), row.variant!))
    onSample?.(i + 1, ordered.rows.length)
  })
  const peak = Math.max(0, ...ordered.rows.filter(row => row.variant!.depth !== 'float').map(row => peakOf(audio.get(ordered.keyOf(row))!.channels)))
  const lowered = peak > 1 ? 1 / peak : 1
  const scaled = new Map([...audio].map(([key, one]) => [key, lowered === 1 ? one : { ...one, channels: one.channels.map(channel => channel.map(value => value * lowered)) }]))
  const ids = new Map<string, string>()
  const { kit: made, samples } = layOut(toApply, ordered, (key, row) => {
    const { channels, sampleRate } = scaled.get(key)!
    const frames = channels[0]!.length
    const id = ids.get(key) ?? identify({ channels, sampleRate, frames })
    ids.set(key, id)
    return { id, frames, channels: channels.length, sampleRate, depth: row.variant!.depth }
  })
  const written = new Map([...samples].map(([id, { name, title, key, shape }]) => [id, { name, title, channels: scaled.get(key)!.channels, sampleRate: shape.sampleRate, depth: shape.depth }]))
  return { made: { kit: made, samples: written }, arranged: ordered.arranged, loweredDb: toDb(lowered) }
}

/** An id for a second copy of a sample. */
function distinctId(id: string, place: number): string {
  return id.slice(0, 56) + place.toString(16).padStart(8, '0')
}

function namesFor(kit: Kit, target: Target, rows: readonly PlanRow[], slotOf: ReadonlyMap<number, Arranged>): string[] {
  const perPad = new Map<number, number>()
  for (const row of rows) perPad.set(row.padIndex, (perPad.get(row.padIndex) ?? 0) + 1)
  const soFar = new Map<number, number>()
  const all = rows.map((row): Named => {
    const pad = kit.pads[row.padIndex]!
    const { slot, toNote } = slotOf.get(row.padIndex)!
    const layer = soFar.get(row.padIndex) ?? 0
    soFar.set(row.padIndex, layer + 1)
    const sound = pad.layers[row.unit.layers[0]!]!.sound
    return {
      slot, slots: slotsOf(target), bank: bankLetter(Math.floor(slot / target.pads.inBank)), pad: slot % target.pads.inBank + 1,
      layer, layers: perPad.get(row.padIndex)!, note: toNote, kind: pad.role, name: perPad.get(row.padIndex)! > 1 ? sound.name : pad.name || sound.name,
    }
  })
  return sampleNames(all, target.names, target.middleC)
}

function padFor(kit: Kit, target: Target, place: Arranged, units: PadUnits, rows: readonly PlanRow[], kept: readonly { readonly row: PlanRow, readonly sound: Layer['sound'] }[], groups: ReadonlyMap<number, number>): Pad {
  const pad = kit.pads[place.padIndex]!
  const { baked, bakesPan } = units
  const has = (feature: Parameters<typeof holds>[1]) => holds(target, feature)
  const isGated = has('gated') && pad.play === 'gated'
  const own = rows.filter(row => row.padIndex === place.padIndex)
  const layers = kept.map(({ row, sound }) => layerFor(pad, row, sound, own, target, units))
  const hasRange = has('note ranges')
  const { chokeGroup, chokedBy, chokeSeconds } = chokeOn(pad, target)
  const groupOn = (group: number) => groups.get(group) ?? []
  return {
    ...emptyPad(place.toNote),
    // What plays over a range stays where it is: its pitches go with its notes.
    ...hasRange && pad.range ? { note: pad.note, range: pad.range } : {},
    name: pad.name, role: pad.role,
    ...has('velocity curve') ? { velocityTrack: pad.velocityTrack, velocityCurve: pad.velocityCurve } : {},
    articulation: has('articulations') ? pad.articulation : null,
    alternateController: has('alternates') ? pad.alternateController : null,
    gainDb: has('gain') ? pad.gainDb : 0,
    pan: bakesPan || !has('pan') ? 0 : pad.pan,
    tuneCents: baked.has('tune') ? 0 : pad.tuneCents,
    play: isGated ? 'gated' : 'one-shot',
    envelope: baked.has('envelope') ? { ...PLAIN_ENVELOPE, releaseSeconds: pad.envelope.releaseSeconds } : pad.envelope,
    filter: baked.has('filter') ? null : pad.filter,
    driveDb: baked.has('drive') ? 0 : pad.driveDb,
    chokeGroup: chokeGroup === null ? null : groups.get(chokeGroup) ?? null,
    chokedBy: chokedBy && chokedBy.flatMap(groupOn),
    chokeSeconds,
    polyphony: has('pad polyphony') ? pad.polyphony : null,
    output: has('outputs') ? pad.output : kit.outputs[0]!.id,
    alternate: has('alternates') ? pad.alternate : null,
    layers: withWholeTurns(layers),
  }
}

function layerFor(pad: Pad, row: PlanRow, sound: Layer['sound'], rows: readonly PlanRow[], target: Target, { baked, bakesPan }: PadUnits): Layer {
  const [only] = row.unit.layers
  const layer = pad.layers[only!]!
  const isMix = row.unit.layers.length > 1
  const fades = holds(target, 'crossfade') && !isMix
  // It also sounds at the velocities of the ranges that its own stands in for.
  const stoodIn = rows.filter(other => other.by !== null && !isSameRange(other, row) && isSameRange(rows.find(({ at }) => at === other.by!.at)!, row))
  const lowVelocity = Math.min(row.unit.lowVelocity, ...stoodIn.map(other => other.unit.lowVelocity))
  const highVelocity = Math.max(row.unit.highVelocity, ...stoodIn.map(other => other.unit.highVelocity))
  return {
    sound,
    pan: bakesPan || isMix || !holds(target, 'pan') ? null : layer.pan,
    envelope: baked.has('envelope') ? null : layer.envelope,
    filter: baked.has('filter') ? null : layer.filter,
    notes: holds(target, 'note ranges') ? layer.notes : null,
    lowVelocity, highVelocity,
    fadeInVelocities: fades ? layer.fadeInVelocities : 0, fadeOutVelocities: fades ? layer.fadeOutVelocities : 0,
    turn: row.unit.turn,
    chance: holds(target, 'chance') ? layer.chance : null,
    gainDb: holds(target, 'gain') && !isMix ? layer.gainDb : 0,
    tuneCents: baked.has('tune') ? 0 : layer.tuneCents + placedCents(pad, layer, target),
    reverse: false, startFrame: 0, endFrame: sound.frames, fadeInFrames: 0, fadeOutFrames: 0,
  }
}

function isSameRange({ unit: one }: PlanRow, { unit: other }: PlanRow): boolean {
  return one.lowVelocity === other.lowVelocity && one.highVelocity === other.highVelocity
}
