import { kindLabel, KINDS } from '../search/kinds'
import { withoutMarks } from '../search/naming'
import { withNote } from './noteEdits'
import {
  emptyPad, FIRST_NOTE, MOST_PAD_NAME, MOST_PADS, PADS_PER_BANK, wholeLayer,
  type Kit, type Layer, type Pad, type SoundRef,
} from './document'

/** What can be set on a pad as a whole. */
export type PadSettings = Partial<Omit<Pad, 'layers' | 'alternate'>>

/** What can be set on one layer. */
export type LayerSettings = Partial<Omit<Layer, 'sound'>>

/** A sound to be put on a pad, with the kind that the library knows it as. */
export interface SoundToPlace {
  readonly sound: SoundRef
  readonly kind: string | null
}

export interface Placement {
  readonly kit: Kit
  /** The pads that got a sound, in the order of the sounds. */
  readonly padIndexes: readonly number[]
  /** Sounds for which no pad was left. */
  readonly leftOver: readonly SoundToPlace[]
}

export function renameKit(kit: Kit, name: string): Kit {
  return { ...kit, name }
}

/** Sets the same values on several pads. Pads that have them already stay the same objects. */
export function setPads(kit: Kit, padIndexes: readonly number[], settings: PadSettings): Kit {
  return mapPads(kit, padIndexes, pad => withChanges<Pad>(pad, settings))
}

/** Sets values on one layer; a start and end that cross or leave the sound, and velocities that cross, are brought back. */
export function setLayer(kit: Kit, padIndex: number, layerIndex: number, settings: LayerSettings): Kit {
  return mapPads(kit, [padIndex], (pad) => {
    const layer = pad.layers[layerIndex]
    if (!layer) return pad
    const changed = trimmed(withChanges<Layer>(layer, settings))
    return { ...pad, layers: pad.layers.with(layerIndex, changed) }
  })
}

/**
 * Puts sounds on pads. One sound goes onto the pad itself, in place of what it held; several go onto the free pads
 * from that pad on, so that none is replaced. Banks are added as needed, up to 128 pads.
 */
export function placeSounds(kit: Kit, padIndex: number, sounds: readonly SoundToPlace[]): Placement {
  if (sounds.length === 1) {
    return { kit: mapPads(kit, [padIndex], pad => withSound(pad, sounds[0]!, kit.newSoundGainDb)), padIndexes: [padIndex], leftOver: [] }
  }
  let grown = kit
  const padIndexes: number[] = []
  let at = padIndex
  for (const sound of sounds) {
    while (at < MOST_PADS && (grown.pads[at]?.layers.length ?? 0) > 0) at++
    if (at >= MOST_PADS) break
    if (at >= grown.pads.length) grown = addBank(grown)
    grown = mapPads(grown, [at], pad => withSound(pad, sound, kit.newSoundGainDb))
    padIndexes.push(at)
    at++
  }
  return { kit: grown, padIndexes, leftOver: sounds.slice(padIndexes.length) }
}

/** Takes the sounds off pads and sets everything but their note and output back. */
export function clearPads(kit: Kit, padIndexes: readonly number[]): Kit {
  return mapPads(kit, padIndexes, pad => ({ ...emptyPad(pad.note), output: pad.output }))
}

/** Exchanges all that two pads hold but their notes. */
export function swapPads(kit: Kit, first: number, second: number): Kit {
  const a = kit.pads[first]
  const b = kit.pads[second]
  if (!a || !b || first === second) return kit
  return { ...kit, pads: kit.pads.with(first, withNote(b, a.note)).with(second, withNote(a, b.note)) }
}

/** Adds a bank of 16 pads on the notes that follow; the kit itself when it has 128 pads already. */
export function addBank(kit: Kit): Kit {
  if (kit.pads.length >= MOST_PADS) return kit
  const taken = new Set(kit.pads.map(pad => pad.note))
  const free = Array.from({ length: 128 }, (_, i) => (FIRST_NOTE + i) % 128).filter(note => !taken.has(note))
  const added = Array.from({ length: PADS_PER_BANK }, (_, i) => emptyPad(free[i] ?? (FIRST_NOTE + kit.pads.length + i) % 128))
  return { ...kit, pads: [...kit.pads, ...added] }
}

/** Takes the last bank away if all its pads are empty; otherwise the kit itself. A kit keeps one bank at least. */
export function removeLastBank(kit: Kit): Kit {
  const last = kit.pads.slice(-PADS_PER_BANK)
  if (kit.pads.length <= PADS_PER_BANK || last.some(pad => pad.layers.length > 0)) return kit
  return { ...kit, pads: kit.pads.slice(0, -PADS_PER_BANK) }
}

function withSound(pad: Pad, { sound, kind }: SoundToPlace, newGainDb: number): Pad {
  const former = pad.layers[0]
  const named = pad.name === '' || (former && isNamedAfter(pad.name, former.sound))
  const layer = former ? { ...wholeLayer(sound), gainDb: former.gainDb, tuneCents: former.tuneCents, reverse: former.reverse } : { ...wholeLayer(sound), gainDb: newGainDb }
  return { ...pad, name: named ? nameOnPad(sound, kind) : pad.name, role: pad.role ?? kind, alternate: null, layers: [layer] }
}

/** True for a name that a pad got with a sound, and nobody gave it. */
export function isNamedAfter(padName: string, sound: SoundRef): boolean {
  return [sound.name, withoutMarks(sound.name)].includes(padName) || KINDS.some(({ path }) => padName === nameOnPad(sound, path))
}

/** What a pad with a sound is called: by its kind as well where the sound's name is nothing but numbers, as in packs full of `013`. */
export function nameOnPad({ name }: SoundRef, kind: string | null): string {
  return (kind === null || /\p{L}/u.test(name) ? name : `${kindLabel(kind)} ${name}`).slice(0, MOST_PAD_NAME)
}

/** A layer with its start, end, fades and velocities brought back into its sound and into one another. */
export function trimmed(layer: Layer): Layer {
  const endFrame = Math.max(1, Math.min(layer.endFrame, layer.sound.frames))
  const startFrame = Math.max(0, Math.min(layer.startFrame, endFrame - 1))
  const highVelocity = Math.max(1, Math.min(127, layer.highVelocity))
  const lowVelocity = Math.max(1, Math.min(layer.lowVelocity, highVelocity))
  const width = highVelocity - lowVelocity
  const held = (wanted: number, most: number) => Math.max(0, Math.min(wanted, most))
  return {
    ...layer, startFrame, endFrame, lowVelocity, highVelocity,
    fadeInVelocities: held(layer.fadeInVelocities, width), fadeOutVelocities: held(layer.fadeOutVelocities, width),
    fadeInFrames: held(layer.fadeInFrames, endFrame - startFrame), fadeOutFrames: held(layer.fadeOutFrames, endFrame - startFrame),
  }
}

/** Changes some pads. The kit itself when none is another afterwards. */
export function mapPads(kit: Kit, padIndexes: readonly number[], change: (pad: Pad, padIndex: number) => Pad): Kit {
  const chosen = new Set(padIndexes)
  const pads = kit.pads.map((pad, i) => chosen.has(i) ? change(pad, i) : pad)
  return pads.every((pad, i) => pad === kit.pads[i]) ? kit : { ...kit, pads }
}

function withChanges<T extends object>(value: T, changes: object): T {
  const changed = Object.entries(changes).some(([key, wanted]) => Reflect.get(value, key) !== wanted)
  return changed ? { ...value, ...changes } : value
}
