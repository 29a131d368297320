import { createHash } from 'node:crypto'
import { identityBytes } from '../../core/audio/identity'
import { applyPlan, bakingOf, type Applied } from '../../core/fit/apply'
import { usualArranging } from '../../core/fit/arrange'
import { bakeUnit, type Audio } from '../../core/fit/bake'
import { measureSample } from '../../core/fit/measure'
import { planFit, type FitPlan, type Wishes } from '../../core/fit/plan'
import { shippedTarget } from '../../core/fit/shipped'
import type { Target } from '../../core/fit/target'
import { unitsOf } from '../../core/fit/units'
import type { Identify } from '../../core/formats/read'
import { emptyKit, wholeLayer, type Kit, type Layer, type Pad, type SoundRef } from '../../core/kit/document'

export const identify: Identify = (audio) => {
  const hash = createHash('sha256')
  for (const piece of identityBytes(audio)) hash.update(piece)
  return hash.digest('hex')
}

export const NO_WISHES: Wishes = { holds: {}, importance: {} }

export function target(id: string): Target {
  const found = shippedTarget(id)
  if (!found) throw new Error(`There is no target ${id}.`)
  return found
}

/** Sounds with their audio, named by it. */
export class Sounds {
  readonly audio = new Map<string, Audio>()

  add(name: string, channels: readonly Float32Array[], sampleRate: number): SoundRef {
    const frames = channels[0]!.length
    const id = identify({ channels, sampleRate, frames })
    this.audio.set(id, { channels, sampleRate })
    return { id, name, frames, sampleRate, channels: channels.length }
  }

  /** A hit: noise and a tone that die away, different for each seed. */
  hit(name: string, seed: number, { seconds = 0.2, sampleRate = 48_000, stereo = false, level = 0.5 } = {}): SoundRef {
    const frames = Math.round(seconds * sampleRate)
    const channel = (salt: number) => {
      let state = seed * 7919 + salt * 104_729 + 1
      return Float32Array.from({ length: frames }, (_, i) => {
        state = (Math.imul(state, 1_103_515_245) + 12_345) & 0x7FFF_FFFF
        const tone = Math.sin(2 * Math.PI * (120 + seed * 37 % 400) * i / sampleRate)
        return Math.fround((0.7 * tone + 0.3 * (state / 0x4000_0000 - 1)) * level * Math.exp(-6 * i / frames))
      })
    }
    return this.add(name, stereo ? [channel(1), channel(2)] : [channel(1)], sampleRate)
  }

  readonly of = (layer: Layer): Audio => this.audio.get(layer.sound.id)!
}

/** A kit with these pads on notes from 36 up, the others empty. */
export function kitOf(pads: readonly Partial<Pad>[]): Kit {
  const kit = emptyKit('Test kit')
  return { ...kit, pads: kit.pads.map((pad, i) => ({ ...pad, ...pads[i] })) }
}

export function layerOf(sound: SoundRef, settings: Partial<Layer> = {}): Layer {
  return { ...wholeLayer(sound), ...settings }
}

/** Measures, plans and carries out, as the application does. */
export function fit(kit: Kit, sounds: Sounds, wanted: Target, wishes: Wishes = NO_WISHES): { plan: FitPlan } & Applied {
  const plan = planOnly(kit, sounds, wanted, wishes)
  return { plan, ...applyPlan({ kit, target: wanted, plan, way: usualArranging(wanted), soundOf: sounds.of, identify }) }
}

export function planOnly(kit: Kit, sounds: Sounds, wanted: Target, wishes: Wishes = NO_WISHES): FitPlan {
  const units = new Map(unitsOf(kit, wanted).map(pad => [pad.padIndex, pad]))
  return planFit(kit, wanted, (padIndex, at) => {
    const pad = units.get(padIndex)!
    return measureSample(bakeUnit(kit, kit.pads[padIndex]!, pad.units[at]!, bakingOf(wanted, pad), sounds.of), 24)
  }, wishes)
}
