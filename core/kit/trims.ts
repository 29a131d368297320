import { MOST_PAD_NAME, MOST_PADS, type Kit, type Layer } from './document'
import { addBank, mapPads, trimmed } from './edits'

/** Where hits and silence lie in a sound, in seconds from its first frame. */
export interface SoundTimes {
  /** Silence before it begins. */
  readonly leadSeconds: number
  /** Where it has fallen by 60 dB for good. */
  readonly endSeconds: number
  readonly hits: readonly { readonly startSeconds: number, readonly endSeconds: number }[]
}

/** Ways to cut what is not wanted off a sound. */
export type TrimWay = 'first hit' | 'tail' | 'lead' | 'whole'

/** Fade that keeps a cut in a sound that has not died away from clicking. */
const CUT_FADE_SECONDS = 0.003
/** A cut at a hit begins just before it. */
const BEFORE_HIT_SECONDS = 0.001

/**
 * Trims every layer of some pads: to its first hit, to where its tail is 60 dB down, to where it begins, or back to the whole.
 * Sounds whose times are not known stay as they are. Nothing is cut from the sounds themselves.
 */
export function trimPads(kit: Kit, padIndexes: readonly number[], way: TrimWay, timesOf: (soundId: string) => SoundTimes | undefined): Kit {
  return mapPads(kit, padIndexes, (pad) => {
    const layers = pad.layers.map((layer) => {
      const times = way === 'whole' ? undefined : timesOf(layer.sound.id)
      if (way !== 'whole' && !times) return layer
      return same(layer, trimmed({ ...layer, ...trimOf(layer, way, times) }))
    })
    return layers.every((layer, i) => layer === pad.layers[i]) ? pad : { ...pad, layers }
  })
}

function trimOf(layer: Layer, way: TrimWay, times: SoundTimes | undefined): Partial<Layer> {
  const frame = (seconds: number) => Math.round(seconds * layer.sound.sampleRate)
  if (!times) return { startFrame: 0, endFrame: layer.sound.frames, fadeInFrames: 0, fadeOutFrames: 0 }
  switch (way) {
    case 'lead':
      return { startFrame: Math.max(layer.startFrame, frame(times.leadSeconds)) }
    case 'tail':
      return { endFrame: Math.min(layer.endFrame, Math.max(layer.startFrame + 1, frame(times.endSeconds))) }
    default: {
      const [first, second] = times.hits
      if (!first || !second) return {}
      return { startFrame: frame(first.startSeconds), endFrame: frame(second.startSeconds - BEFORE_HIT_SECONDS), fadeOutFrames: frame(CUT_FADE_SECONDS) }
    }
  }
}

/** Frames at which to cut a layer into so many equal parts: the start of each. */
export function evenCuts(layer: Layer, parts: number): number[] {
  const span = layer.endFrame - layer.startFrame
  const count = Math.max(1, Math.min(parts, span))
  return Array.from({ length: count }, (_, i) => layer.startFrame + Math.round(span * i / count))
}

/** Frames at which the hits begin that lie in a layer. */
export function hitCuts(layer: Layer, times: SoundTimes): number[] {
  const cuts = times.hits.map(hit => Math.round(Math.max(0, hit.startSeconds - BEFORE_HIT_SECONDS) * layer.sound.sampleRate)).filter(cut => cut < layer.endFrame)
  return [...new Set(cuts.map(cut => Math.max(cut, layer.startFrame)))]
}

export interface Sliced {
  readonly kit: Kit
  readonly padIndexes: readonly number[]
  /** Slices for which no pad was left. */
  readonly leftOver: number
}

/**
 * Cuts a pad's first layer into slices: the first stays on the pad, the others go onto the empty pads of the notes that
 * follow, with the pad's settings. The sound stays whole: each slice is a start and an end in it.
 *
 * @param cuts frames at which slices begin, rising
 */
export function slice(kit: Kit, padIndex: number, cuts: readonly number[]): Sliced {
  const source = kit.pads[padIndex]
  const layer = source?.layers[0]
  if (!source || !layer || cuts.length === 0) return { kit, padIndexes: [], leftOver: 0 }
  const fade = Math.round(CUT_FADE_SECONDS * layer.sound.sampleRate)
  const slices = cuts.map((startFrame, i) => {
    const endFrame = cuts[i + 1] ?? layer.endFrame
    return trimmed({ ...layer, startFrame, endFrame, fadeOutFrames: i < cuts.length - 1 ? Math.min(fade, endFrame - startFrame) : layer.fadeOutFrames })
  })
  let next = mapPads(kit, [padIndex], pad => ({ ...pad, layers: [slices[0]!] }))
  const padIndexes = [padIndex]
  let note = source.note
  for (const [i, part] of slices.entries()) {
    if (i === 0) continue
    const found = emptyPadAbove(next, note, padIndexes)
    if (!found) return { kit: next, padIndexes, leftOver: slices.length - i }
    note = found.kit.pads[found.padIndex]!.note
    next = mapPads(found.kit, [found.padIndex], pad => ({ ...source, note: pad.note, name: `${source.name} ${i + 1}`.slice(0, MOST_PAD_NAME), layers: [part] }))
    padIndexes.push(found.padIndex)
  }
  return { kit: next, padIndexes, leftOver: 0 }
}

/** The empty pad on the lowest note above one; banks are added as needed, and the last empty pad gets a note that no pad has. */
function emptyPadAbove(kit: Kit, note: number, used: readonly number[]): { kit: Kit, padIndex: number } | undefined {
  const empty = kit.pads.flatMap((pad, index) => pad.layers.length === 0 && pad.note > note && !used.includes(index) ? [index] : [])
  const nearest = empty.toSorted((a, b) => kit.pads[a]!.note - kit.pads[b]!.note)[0]
  if (nearest !== undefined) return { kit, padIndex: nearest }
  if (kit.pads.length < MOST_PADS) return emptyPadAbove(addBank(kit), note, used)
  return undefined
}

function same(before: Layer, after: Layer): Layer {
  return before.startFrame === after.startFrame && before.endFrame === after.endFrame && before.fadeInFrames === after.fadeInFrames && before.fadeOutFrames === after.fadeOutFrames ? before : after
}
