import { fromDb } from '../audio/level'
import { resample } from '../audio/resample'
import { centsToRatio, panGains, settingsOf, trackedCents } from '../kit/voices'
import { PLAIN_ENVELOPE, type Kit, type Layer, type Pad } from '../kit/document'
import { Voice } from '../render/voice'
import { MOST_FRAMES, workspace } from '../render/workspace'
import type { Baked, Unit } from './units'

const LONGEST_SECONDS = 120

/** Audio at its own rate. */
export interface Audio {
  readonly channels: readonly Float32Array[]
  readonly sampleRate: number
}

/** What of a pad goes into its samples beside trims, fades and the direction of playing. */
export interface Baking {
  readonly baked: ReadonlySet<Baked>
  readonly gain: boolean
  readonly pan: boolean
  /** The pad has one note on the target: the pitch that it has there goes into the tuning. */
  readonly placesNote: boolean
}

/**
 * The sample of a unit: its layers as they sound at full velocity, trimmed, faded and turned round, with those settings of the pad
 * that the target cannot hold. Runs the voices of the engine, so that what is written is what is heard. Layers that sound together
 * are added up at their levels.
 *
 * @param soundOf the audio of a layer's sound
 * @returns one channel or two at the rate of the first layer's sound; not limited
 */
export function bakeUnit(kit: Kit, pad: Pad, unit: Unit, how: Baking, soundOf: (layer: Layer) => Audio): Audio {
  const layers = unit.layers.map(index => pad.layers[index]!)
  const first = soundOf(layers[0]!)
  const isMix = layers.length > 1
  const parts = layers.map(layer => bakeLayer(pad, layer, soundOf(layer), how, first.sampleRate))
  const pans = layers.map(layer => how.pan ? settingsOf(pad, layer).pan : 0)
  const isWide = pans.some(pan => pan !== 0)
  const count = isWide || parts.some(part => part.length > 1) ? 2 : 1
  const frames = Math.max(...parts.map(part => part[0]!.length))
  const sides = pans.map(panGains)
  const padGain = how.gain ? kit.gainDb + pad.gainDb : 0
  const channels = Array.from({ length: count }, (_, side) => {
    const sidedGain = (i: number) => (count === 2 ? side === 0 ? sides[i]!.left : sides[i]!.right : 1) * fromDb(padGain)
    const only = parts[0]!
    // What nothing is done to stays the same to the bit.
    if (!isMix && sidedGain(0) === 1 && (!how.gain || layers[0]!.gainDb === 0)) return only[side] ?? only[0]!
    const out = new Float32Array(frames)
    parts.forEach((part, i) => {
      const gain = sidedGain(i) * (how.gain || isMix ? fromDb(layers[i]!.gainDb) : 1)
      const channel = part[side] ?? part[0]!
      for (let frame = 0; frame < channel.length; frame++) out[frame]! += channel[frame]! * gain
    })
    return out
  })
  return { channels, sampleRate: first.sampleRate }
}

function bakeLayer(pad: Pad, layer: Layer, sound: Audio, { baked, placesNote }: Baking, rate: number): readonly Float32Array[] {
  const isPlain = baked.size === 0 && !layer.reverse && layer.fadeInFrames === 0 && layer.fadeOutFrames === 0 && sound.sampleRate === rate
  const channels = sound.channels.slice(0, 2)
  if (isPlain) return channels.map(channel => channel.subarray(layer.startFrame, layer.endFrame))
  const { envelope, filter } = settingsOf(pad, layer)
  const cents = pad.tuneCents + layer.tuneCents + (placesNote ? trackedCents(pad, layer, pad.note) : 0)
  const voice = new Voice(0, {
    padIndex: 0, layerIndex: 0, soundId: layer.sound.id, gainLeft: 1, gainRight: 1,
    pitchRatio: baked.has('tune') ? centsToRatio(cents) : 1,
    reverse: layer.reverse, startFrame: layer.startFrame, endFrame: layer.endFrame, fadeInFrames: layer.fadeInFrames, fadeOutFrames: layer.fadeOutFrames,
    envelope: baked.has('envelope') ? envelope : PLAIN_ENVELOPE,
    filter: baked.has('filter') ? filter : null,
    driveDb: baked.has('drive') ? pad.driveDb : 0,
    note: 0, chokeGroup: null, chokedBy: [], chokeSeconds: 0, gated: false, outputIndex: 0,
  }, { channels: resample(channels, sound.sampleRate, rate), sourceRate: sound.sampleRate }, rate)
  return played(voice, channels.length, LONGEST_SECONDS * rate)
}

function played(voice: Voice, channels: number, most: number): Float32Array[] {
  const blocks: Float32Array[][] = []
  let frames = 0
  for (let goes = true; goes && frames < most;) {
    const block = [new Float32Array(MOST_FRAMES), new Float32Array(MOST_FRAMES)] as const
    const before = voice.playedFrames
    workspace().openBuses(1, MOST_FRAMES)
    goes = voice.mixInto(0, 0, MOST_FRAMES)
    workspace().takeBus(0, block, 0)
    const count = voice.playedFrames - before
    blocks.push(block.slice(0, channels).map(channel => channel.subarray(0, count)))
    frames += count
  }
  return Array.from({ length: channels }, (_, side) => {
    const out = new Float32Array(Math.max(1, frames))
    let at = 0
    for (const block of blocks) {
      out.set(block[side]!, at)
      at += block[side]!.length
    }
    return out
  })
}
