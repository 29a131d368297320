import type { Kit } from '../kit/document'
import { notesOf } from '../kit/noteEdits'
import { bytesOfDepth } from '../formats/write'
import { holds, slotsOf, type Target } from './target'
import { unitsOf } from './units'
import { FILE_BYTES } from './variants'

/** What a kit takes of a target. */
export interface Usage {
  readonly pads: number
  /** Notes that sound. */
  readonly notes: number
  /** Velocity ranges and takes of the pad that has the most. */
  readonly layers: number
  readonly samples: number
  readonly seconds: number
  readonly bytes: number
  readonly longestSeconds: number
}

export const METERS = ['pads', 'notes', 'layers', 'samples', 'seconds', 'bytes', 'longestSeconds'] as const
export type Meter = typeof METERS[number]

/** How many notes pads take: all of a range where the target has ranges, else one each. */
export function notesUsed(kit: Kit, padIndexes: readonly number[], target: Target): number {
  return new Set(padIndexes.flatMap(index => holds(target, 'note ranges') ? notesOf(kit.pads[index]!) : [kit.pads[index]!.note])).size
}

/** How much of each there is; null: no end. */
export function roomOf(target: Target): Readonly<Record<Meter, number | null>> {
  const { limits, notes, layers, turns } = target
  return {
    pads: slotsOf(target), notes: notes.last - notes.first + 1, layers: layers * turns, samples: limits.samples,
    seconds: limits.seconds, bytes: limits.bytes, longestSeconds: limits.longestSeconds,
  }
}

/** Which meters are over, with what is used and what there is. */
export function overOf(usage: Usage, target: Target): { readonly meter: Meter, readonly used: number, readonly room: number }[] {
  const room = roomOf(target)
  return METERS.flatMap(meter => room[meter] !== null && usage[meter] > room[meter] * (1 + 1e-9) ? [{ meter, used: usage[meter], room: room[meter] }] : [])
}

/**
 * What a kit would take if nothing gave: every sample whole, in the best form that the target takes. Worked out from what the kit
 * knows of its sounds, without their audio.
 */
export function usageOfKit(kit: Kit, target: Target): Usage {
  const pads = unitsOf(kit, target)
  const rates = target.audio.rates.toSorted((a, b) => a - b)
  const bytesAFrame = Math.max(...target.audio.depths.map(bytesOfDepth))
  const shared = new Set<string>()
  let [samples, seconds, bytes, longestSeconds] = [0, 0, 0, 0]
  for (const { padIndex, units } of pads) {
    const pad = kit.pads[padIndex]!
    for (const unit of units) {
      const layers = unit.layers.map(index => pad.layers[index]!)
      const key = JSON.stringify(layers.map(({ sound, startFrame, endFrame, reverse }) => [sound.id, startFrame, endFrame, reverse]))
      if (target.audio.shares && shared.has(key)) continue
      shared.add(key)
      const length = Math.max(...layers.map(({ startFrame, endFrame, sound }) => (endFrame - startFrame) / sound.sampleRate))
      const most = Math.min(layers[0]!.sound.sampleRate, target.audio.highestRate)
      const rate = rates.length === 0 ? most : rates.find(candidate => candidate >= most) ?? rates.at(-1)!
      const channels = Math.min(target.audio.channels, Math.max(...layers.map(layer => Math.min(2, layer.sound.channels))))
      samples++
      seconds += length
      bytes += Math.round(length * rate) * channels * bytesAFrame + FILE_BYTES
      longestSeconds = Math.max(longestSeconds, length)
    }
  }
  return {
    pads: pads.length, notes: notesUsed(kit, pads.map(({ padIndex }) => padIndex), target),
    layers: Math.max(0, ...pads.map(({ units }) => units.length)), samples, seconds, bytes, longestSeconds,
  }
}
