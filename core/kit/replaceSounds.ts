import type { Kit, Layer, Pad, SoundRef } from './document'
import { isNamedAfter, mapPads, nameOnPad, trimmed } from './edits'

/**
 * Puts other sounds in the place of some, wherever the kit holds them. All that was set on pads and layers stays: starts, ends
 * and fades keep their times, whatever the rate, as far as the other sound is long enough; a layer that played to its sound's
 * end plays to the other's. Pads that were named after a sound are named after the other.
 *
 * @param standIns by the ids of the sounds whose place they take
 * @returns the kit itself where it holds none of them
 */
export function replaceSounds(kit: Kit, standIns: ReadonlyMap<string, SoundRef>): Kit {
  return mapPads(kit, [...kit.pads.keys()], (pad) => {
    if (!pad.layers.some(layer => standIns.has(layer.sound.id))) return pad
    return { ...pad, name: nameWith(pad, standIns), layers: pad.layers.map(layer => withSound(layer, standIns.get(layer.sound.id))) }
  })
}

function nameWith(pad: Pad, standIns: ReadonlyMap<string, SoundRef>): string {
  const named = pad.layers.find(({ sound }) => isNamedAfter(pad.name, sound))
  const sound = named && standIns.get(named.sound.id)
  return sound ? nameOnPad(sound, pad.role) : pad.name
}

function withSound(layer: Layer, sound: SoundRef | undefined): Layer {
  if (!sound) return layer
  const frame = (frames: number) => Math.round(frames / layer.sound.sampleRate * sound.sampleRate)
  const begins = frame(layer.startFrame) < sound.frames ? frame(layer.startFrame) : 0
  const toEnd = layer.endFrame === layer.sound.frames || begins !== frame(layer.startFrame)
  return trimmed({
    ...layer, sound, startFrame: begins, endFrame: toEnd ? sound.frames : Math.max(begins + 1, frame(layer.endFrame)),
    fadeInFrames: frame(layer.fadeInFrames), fadeOutFrames: frame(layer.fadeOutFrames),
  })
}
