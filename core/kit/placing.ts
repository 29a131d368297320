import { placeByKind } from './byKind'
import { MOST_LAYERS, MOST_PAD_NAME, MOST_PADS, wholeLayer, type Kit, type Layer } from './document'
import { addBank, nameOnPad, placeSounds, type SoundToPlace } from './edits'
import { takenNotes } from './noteEdits'
import { familyLayers, familyOf, familyParts, rangesByLevel, sharedName, singleParts, softFirst, type KnownSound, type Part } from './parts'
import { velocityRanges } from './ranges'

/**
 * How sounds are put on pads. Ways onto several pads can keep the strokes and takes of one instrument on one pad; those on
 * notes that follow one another can pass over notes that hold a sound.
 */
export type PlacingWay = PlacingPlace & {
  /** What the pads hold stays beside what is put on them. */
  readonly adds?: boolean
}

type PlacingPlace =
  /** On notes that follow one another; families and kinds can be kept apart by free notes. */
  | { readonly type: 'in order', readonly startNote: number, readonly gap: number, readonly families?: boolean, readonly skipsTaken?: boolean }
  | { readonly type: 'by kind', readonly families?: boolean }
  /** On the note that the file states, or the one nearest to the measured pitch. */
  | { readonly type: 'stated note' | 'measured note', readonly families?: boolean }
  /** On notes that follow one another, the low ones first, or the high ones. */
  | { readonly type: 'by pitch', readonly startNote: number, readonly isFalling: boolean, readonly families?: boolean, readonly skipsTaken?: boolean }
  /** On one pad: soft ones at low velocities, loud ones at high, over equal ranges or as their levels lie. */
  | { readonly type: 'velocity layers', readonly padIndex: number, readonly byLevel?: boolean }
  /** On one pad: at once, each hit the next, or one chosen by a value. */
  | { readonly type: 'stack' | 'round robin' | 'alternates', readonly padIndex: number }

/** Where a sound went. */
export interface Placed {
  readonly sound: KnownSound
  readonly padIndex: number
}

/** A sound that went nowhere, and why. */
export interface NotPlaced {
  readonly sound: KnownSound
  readonly why: string
}

export interface Placing {
  readonly kit: Kit
  readonly placed: readonly Placed[]
  /** Pads of which the sounds are replaced. */
  readonly replaced: readonly number[]
  readonly notPlaced: readonly NotPlaced[]
}

const NO_PAD = 'No pad is left: a kit has 128 at most. Make a second kit of them, or put several on one pad.'
const NO_NOTE = 'The note would be above 127, the highest there is. Begin on a lower note, or leave fewer notes free.'
const NO_STATED_NOTE = 'No note is stated in the file. Put it on pads in order.'
const NO_PITCH = 'No pitch was measured. Put it on pads in order.'
const HELD = 'The pad is held. Let it go, or begin elsewhere.'
const NO_LAYER = `A pad has ${MOST_LAYERS} layers at most. Put the others on another pad.`

/** What putting sounds on pads in some way would make of a kit. Nothing is changed but the kit that is given back. */
export function place(kit: Kit, sounds: readonly KnownSound[], way: PlacingWay): Placing {
  switch (way.type) {
    case 'in order':
      return onNotes(kit, consecutive(partsOf(sounds, way), way.startNote, way.gap, way.skipsTaken ? takenNotes(kit) : NONE), way.adds)
    case 'by pitch':
      return onNotes(kit, consecutive(byPitch(partsOf(sounds, way), way.isFalling), way.startNote, 0, way.skipsTaken ? takenNotes(kit) : NONE), way.adds)
    case 'stated note':
      return onNotes(kit, partsOf(sounds, way).map(part => ({ part, note: part.lead.statedNote ?? NO_STATED_NOTE })), way.adds)
    case 'measured note':
      return onNotes(kit, partsOf(sounds, way).map(part => ({ part, note: part.lead.pitchNote === null ? NO_PITCH : Math.max(0, Math.min(127, Math.round(part.lead.pitchNote))) })), way.adds)
    case 'by kind':
      return onFittingPads(kit, partsOf(sounds, way))
    case 'velocity layers': {
      const soft = softFirst(sounds)
      return onOnePad(kit, soft, way, (held, added) => {
        const all = [...held, ...added]
        const ranges = way.byLevel && held.length === 0 ? rangesByLevel(soft.slice(0, added.length).map(sound => sound.hitLufs)) : velocityRanges(all.length)
        return all.map((layer, i) => ({ ...layer, lowVelocity: ranges[i]!.low, highVelocity: ranges[i]!.high, fadeInVelocities: 0, fadeOutVelocities: 0 }))
      })
    }
    case 'stack':
      return onOnePad(kit, sounds, way, (held, added) => [...held, ...added])
    case 'round robin':
      return onOnePad(kit, sounds, way, inTurns)
    case 'alternates':
      return onOnePad(kit, sounds, way, (held, added) => [...held, ...added], true)
  }
}

/** All layers of all velocities take turns, those that were there first; others stay as they are. */
function inTurns(held: readonly Layer[], added: readonly Layer[]): Layer[] {
  const all = [...held, ...added]
  const isTurned = (layer: Layer) => layer.lowVelocity === 1 && layer.highVelocity === 127
  if (all.filter(isTurned).length < 2) return all
  let turn = 0
  return all.map(layer => isTurned(layer) ? { ...layer, turn: ++turn } : layer)
}

function partsOf(sounds: readonly KnownSound[], way: { readonly families?: boolean }): Part[] {
  return way.families ? familyParts(sounds) : singleParts(sounds)
}

/** Those of no known pitch come last, in their order. */
function byPitch(parts: readonly Part[], isFalling: boolean): Part[] {
  const known = parts.filter(({ lead }) => lead.pitchNote !== null).sort((a, b) => (a.lead.pitchNote! - b.lead.pitchNote!) * (isFalling ? -1 : 1))
  return [...known, ...parts.filter(({ lead }) => lead.pitchNote === null)]
}

interface Wanted {
  readonly part: Part
  /** Or why it has none. */
  readonly note: number | string
}

const NONE: ReadonlySet<number> = new Set()

function consecutive(parts: readonly Part[], startNote: number, gap: number, passedOver: ReadonlySet<number>): Wanted[] {
  let note = startNote - 1
  let before: string | undefined
  return parts.map((part) => {
    const group = familyOf(part.lead) ?? part.lead.kind ?? ''
    note += before !== undefined && group !== before ? 1 + gap : 1
    while (passedOver.has(note)) note++
    before = group
    return { part, note: note > 127 ? NO_NOTE : note }
  })
}

function onNotes(kit: Kit, wanted: readonly Wanted[], adds = false): Placing {
  let grown = kit
  const placed: Placed[] = []
  const replaced = new Set<number>()
  const notPlaced: NotPlaced[] = []
  const used = new Set<number>()
  for (const { part, note } of wanted) {
    const found = typeof note === 'string' ? note : padOnNote(grown, note, used)
    if (typeof found === 'string') {
      notPlaced.push(...part.sounds.map(sound => ({ sound, why: found })))
      continue
    }
    if (!adds && kit.pads[found.padIndex]?.layers.length) replaced.add(found.padIndex)
    const put = putPart(found.kit, found.padIndex, part, adds)
    grown = put.kit
    placed.push(...put.placed)
    notPlaced.push(...put.notPlaced)
    used.add(found.padIndex)
  }
  return { kit: grown, placed, replaced: [...replaced], notPlaced }
}

function onFittingPads(kit: Kit, parts: readonly Part[]): Placing {
  const { kit: grown, padIndexes, leftOver } = placeByKind(kit, parts.map(part => part.lead))
  const left = new Set<SoundToPlace>(leftOver)
  const went = parts.filter(part => !left.has(part.lead))
  const puts = went.map((part, i) => ({ part, padIndex: padIndexes[i]! }))
  let filled = grown
  const placed: Placed[] = []
  const notPlaced: NotPlaced[] = parts.filter(part => left.has(part.lead)).flatMap(part => part.sounds.map(sound => ({ sound, why: NO_PAD })))
  for (const { part, padIndex } of puts) {
    const put = putPart(filled, padIndex, part)
    filled = put.kit
    placed.push(...put.placed)
    notPlaced.push(...put.notPlaced)
  }
  return { kit: filled, placed, replaced: [], notPlaced }
}

/** Puts a sound, or the strokes of an instrument as layers, on a pad, in place of what it held or beside it. */
function putPart(kit: Kit, padIndex: number, part: Part, adds = false): Pick<Placing, 'kit' | 'placed' | 'notPlaced'> {
  const held = adds ? kit.pads[padIndex]?.layers ?? [] : []
  const { kit: named } = held.length > 0 ? { kit } : placeSounds(kit, padIndex, [part.lead])
  if (part.sounds.length === 1 && held.length === 0) return { kit: named, placed: [{ sound: part.lead, padIndex }], notPlaced: [] }
  const all = familyLayers(part.sounds).map(layer => ({ ...layer, gainDb: kit.newSoundGainDb }))
  const layers = all.slice(0, MOST_LAYERS - held.length)
  const inIt = new Set(layers.map(layer => layer.sound.id))
  return {
    kit: held.length > 0 ? { ...named, pads: named.pads.with(padIndex, { ...named.pads[padIndex]!, layers: [...held, ...layers] }) } : withLayers(named, padIndex, layers, part.sounds, part.lead),
    placed: part.sounds.filter(({ sound }) => inIt.has(sound.id)).map(sound => ({ sound, padIndex })),
    notPlaced: part.sounds.filter(({ sound }) => !inIt.has(sound.id)).map(sound => ({ sound, why: NO_LAYER })),
  }
}

/** Layers on a pad, that is called after all of them where it would be after the one that leads. */
function withLayers(kit: Kit, padIndex: number, layers: readonly Layer[], sounds: readonly KnownSound[], lead: KnownSound): Kit {
  const pad = kit.pads[padIndex]!
  const name = pad.name === nameOnPad(lead.sound, lead.kind) ? sharedName(sounds)?.slice(0, MOST_PAD_NAME) ?? pad.name : pad.name
  return { ...kit, pads: kit.pads.with(padIndex, { ...pad, name, layers }) }
}

/** A pad on a note: one that was not given a sound just now; where there is none, banks are added, then an empty pad gets the note. Or why there is none. */
function padOnNote(kit: Kit, note: number, used: ReadonlySet<number>): { kit: Kit, padIndex: number } | string {
  let grown = kit
  for (;;) {
    const onNote = grown.pads.flatMap((pad, index) => pad.note === note && !used.has(index) ? [index] : [])
    const padIndex = onNote.find(index => !grown.pads[index]!.held)
    if (padIndex !== undefined) return { kit: grown, padIndex }
    if (onNote.length > 0) return HELD
    if (grown.pads.length >= MOST_PADS) break
    grown = addBank(grown)
  }
  const empty = grown.pads.findLastIndex((pad, index) => pad.layers.length === 0 && !pad.held && !used.has(index))
  return empty < 0 ? NO_PAD : { kit: { ...grown, pads: grown.pads.with(empty, { ...grown.pads[empty]!, note }) }, padIndex: empty }
}

/** Makes layers of sounds on one pad, in place of what it held or beside it; alternates where one of them is to be chosen. */
function onOnePad(kit: Kit, sounds: readonly KnownSound[], { padIndex, adds = false }: { readonly padIndex: number, readonly adds?: boolean }, arranged: (held: readonly Layer[], added: readonly Layer[]) => Layer[], areAlternates = false): Placing {
  const pad = kit.pads[padIndex]
  const held = adds ? pad?.layers ?? [] : []
  const taken = sounds.slice(0, MOST_LAYERS - held.length)
  const first = taken[0]
  if (!first || !pad) return { kit, placed: [], replaced: [], notPlaced: sounds.map(sound => ({ sound, why: NO_LAYER })) }
  const layers = arranged(held, taken.map(({ sound }) => ({ ...wholeLayer(sound), gainDb: kit.newSoundGainDb })))
  const grown = held.length > 0
    ? { ...kit, pads: kit.pads.with(padIndex, { ...pad, layers }) }
    : withLayers(placeSounds(kit, padIndex, [first]).kit, padIndex, layers, taken, first)
  return {
    kit: { ...grown, pads: grown.pads.with(padIndex, { ...grown.pads[padIndex]!, alternate: areAlternates ? held.length > 0 ? pad.alternate ?? 0 : 0 : null }) },
    placed: taken.map(sound => ({ sound, padIndex })),
    replaced: !adds && pad.layers.length > 0 ? [padIndex] : [],
    notPlaced: sounds.slice(taken.length).map(sound => ({ sound, why: NO_LAYER })),
  }
}
