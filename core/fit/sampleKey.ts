import type { Kit } from '../kit/document'
import { settingsOf } from '../kit/voices'
import { holds, type Target } from './target'
import { placedCents, type PadUnits, type Unit } from './units'

/** What a written sample depends on: samples with the same key are the same to the bit, and are measured once. */
export function sampleKey(kit: Kit, unit: Unit, { padIndex, baked, bakesPan }: PadUnits, target: Pick<Target, 'holds'>): string {
  const pad = kit.pads[padIndex]!
  const isMix = unit.layers.length > 1
  const layers = unit.layers.map((index) => {
    const layer = pad.layers[index]!
    const { sound, startFrame, endFrame, reverse, fadeInFrames, fadeOutFrames, gainDb, tuneCents } = layer
    const { pan, envelope, filter } = settingsOf(pad, layer)
    return [
      sound.id, startFrame, endFrame, reverse, fadeInFrames, fadeOutFrames, holds(target, 'gain') && !isMix ? 0 : gainDb, baked.has('tune') ? tuneCents + pad.tuneCents + placedCents(pad, layer, target) : 0,
      bakesPan ? pan : 0, baked.has('filter') ? filter : 0, baked.has('envelope') ? envelope : 0,
    ]
  })
  return JSON.stringify([
    layers, holds(target, 'gain') ? 0 : kit.gainDb + pad.gainDb, baked.has('drive') ? pad.driveDb : 0,
  ])
}
