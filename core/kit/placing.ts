import { readName } from '../search/naming'
import { placeByKind } from './byKind'
import { MOST_LAYERS, MOST_PADS, wholeLayer, type Kit, type Layer } from './document'
import { addBank, placeSounds, type SoundToPlace } from './edits'
import { velocityRanges } from './ranges'

/** What is known of a sound that decides where it goes. */
export interface KnownSound extends SoundToPlace {
  /** Loudness of its hit in LUFS. */
  readonly hitLufs: number | null
  /** Pitch as a note number with cents as its fraction. */
  readonly pitchNote: number | null
  /** The note that its file states. */
  readonly statedNote: number | null
}

/** How sounds are put on pads. */
export type PlacingWay =
  /** On notes that follow one another; families and kinds can be kept apart by free notes. */
  | { readonly type: 'in order', readonly startNote: number, readonly gap: number }
  | { readonly type: 'by kind' }
  | { readonly type: 'stated note' }
  /** On notes that follow one another, the low ones first, or the high ones. */
  | { readonly type: 'by pitch', readonly startNote: number, readonly isFalling: boolean }
  /** On one pad: soft ones at low velocities, loud ones at high; or all at once. */
  | { readonly type: 'velocity layers', readonly padIndex: number }
  | { readonly type: 'stack', readonly padIndex: number }

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

/** What putting sounds on pads in some way would make of a kit. Nothing is changed but the kit that is given back. */
export function place(kit: Kit, sounds: readonly KnownSound[], way: PlacingWay): Placing {
  switch (way.type) {
    case 'in order':
      return onNotes(kit, consecutive(sounds, way.startNote, way.gap))
    case 'by pitch':
      return onNotes(kit, consecutive(byPitch(sounds, way.isFalling), way.startNote, 0))
    case 'stated note':
      return onNotes(kit, sounds.map(sound => ({ sound, note: sound.statedNote ?? 'Its file states no note.' })))
    case 'by kind': {
      const { kit: placed, padIndexes, leftOver } = placeByKind(kit, sounds)
      const left = new Set<SoundToPlace>(leftOver)
      const went = sounds.filter(sound => !left.has(sound))
      return { kit: placed, placed: went.map((sound, i) => ({ sound, padIndex: padIndexes[i]! })), replaced: [], notPlaced: sounds.filter(sound => left.has(sound)).map(sound => ({ sound, why: NO_PAD })) }
    }
    case 'velocity layers':
      return onOnePad(kit, softFirst(sounds), way.padIndex, velocityRanges)
    case 'stack':
      return onOnePad(kit, sounds, way.padIndex, count => Array.from({ length: count }, () => ({ low: 1, high: 127 })))
  }
}

/** Sounds from soft to loud: by the strokes that their names tell of where all do, else by how loud they are. */
export function softFirst<T extends KnownSound>(sounds: readonly T[]): T[] {
  const strokes = sounds.map(({ sound }) => readName(`${sound.name}.wav`).velocity)
  const isTold = strokes.every(stroke => stroke !== undefined)
  return sounds.map((sound, i) => ({ sound, loudness: isTold ? strokes[i]! : sound.hitLufs ?? -Infinity })).sort((a, b) => a.loudness - b.loudness || 0).map(({ sound }) => sound)
}

const NO_PAD = 'No pad is left: a kit has 128 at most.'
const NO_NOTE = 'Its note would be above 127, the highest there is.'

/** Those of no known pitch come last, in their order. */
function byPitch(sounds: readonly KnownSound[], isFalling: boolean): KnownSound[] {
  const known = sounds.filter(sound => sound.pitchNote !== null).sort((a, b) => (a.pitchNote! - b.pitchNote!) * (isFalling ? -1 : 1))
  return [...known, ...sounds.filter(sound => sound.pitchNote === null)]
}

interface Wanted {
  readonly sound: KnownSound
  /** Or why it has none. */
  readonly note: number | string
}

function consecutive(sounds: readonly KnownSound[], startNote: number, gap: number): Wanted[] {
  let note = startNote - 1
  let before: string | undefined
  return sounds.map((sound) => {
    const group = groupOf(sound)
    note += before !== undefined && group !== before ? 1 + gap : 1
    before = group
    return { sound, note: note > 127 ? NO_NOTE : note }
  })
}

/** Strokes of one instrument, or sounds of one kind. */
function groupOf({ sound, kind }: KnownSound): string {
  return readName(`${sound.name}.wav`).family ?? kind ?? ''
}

function onNotes(kit: Kit, wanted: readonly Wanted[]): Placing {
  let grown = kit
  const placed: Placed[] = []
  const replaced = new Set<number>()
  const notPlaced: NotPlaced[] = []
  const used = new Set<number>()
  for (const { sound, note } of wanted) {
    if (typeof note === 'string') {
      notPlaced.push({ sound, why: note })
      continue
    }
    const found = padOnNote(grown, note, used)
    if (!found) {
      notPlaced.push({ sound, why: NO_PAD })
      continue
    }
    if (kit.pads[found.padIndex]?.layers.length) replaced.add(found.padIndex)
    grown = placeSounds(found.kit, found.padIndex, [sound]).kit
    used.add(found.padIndex)
    placed.push({ sound, padIndex: found.padIndex })
  }
  return { kit: grown, placed, replaced: [...replaced], notPlaced }
}

/** A pad on a note: one that was not given a sound just now; where there is none, banks are added, then an empty pad gets the note. */
function padOnNote(kit: Kit, note: number, used: ReadonlySet<number>): { kit: Kit, padIndex: number } | undefined {
  let grown = kit
  for (;;) {
    const padIndex = grown.pads.findIndex((pad, index) => pad.note === note && !used.has(index))
    if (padIndex >= 0) return { kit: grown, padIndex }
    if (grown.pads.length >= MOST_PADS) break
    grown = addBank(grown)
  }
  const empty = grown.pads.findLastIndex((pad, index) => pad.layers.length === 0 && !used.has(index))
  return empty < 0 ? undefined : { kit: { ...grown, pads: grown.pads.with(empty, { ...grown.pads[empty]!, note }) }, padIndex: empty }
}

/** Makes layers of sounds, in place of what the pad held. */
function onOnePad(kit: Kit, sounds: readonly KnownSound[], padIndex: number, rangesOf: (count: number) => { low: number, high: number }[]): Placing {
  const taken = sounds.slice(0, MOST_LAYERS)
  const first = taken[0]
  if (!first) return { kit, placed: [], replaced: [], notPlaced: [] }
  const ranges = rangesOf(taken.length)
  const layers = taken.map(({ sound }, i): Layer => ({ ...wholeLayer(sound), lowVelocity: ranges[i]!.low, highVelocity: ranges[i]!.high }))
  const held = kit.pads[padIndex]?.layers.length ?? 0
  const { kit: named } = placeSounds(kit, padIndex, [first])
  return {
    kit: { ...named, pads: named.pads.with(padIndex, { ...named.pads[padIndex]!, layers }) },
    placed: taken.map(sound => ({ sound, padIndex })),
    replaced: held > 0 ? [padIndex] : [],
    notPlaced: sounds.slice(MOST_LAYERS).map(sound => ({ sound, why: `A pad has ${MOST_LAYERS} layers at most.` })),
  }
}
