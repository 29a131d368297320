import { measure } from '../core/audio/analysis/figures'
import type { SoundClass } from '../core/audio/kinds/classes'
import { resample } from '../core/audio/resample'
import { Random, SYNTH_RATE } from '../demo/synth/dsp'
import { altered, recorded } from './augment'
import type { Labelled } from './openSets'
import { closedHats, cymbals, metals, openHats, shakers, woods } from './synth/metals'
import type { Maker } from './synth/parts'
import { claps, hands, kicks, others, rims, snares, toms } from './synth/skins'

/** A vector with the class that it belongs to. */
export interface Example {
  readonly features: Uint8Array
  readonly label: string
  readonly set: string
  readonly name: string
}

const MAKERS: Readonly<Record<SoundClass, readonly Maker[]>> = {
  'kick': kicks, 'snare': snares, 'rim': rims, 'clap': claps, 'tom': toms, 'hat.closed': closedHats, 'hat.open': openHats, 'cymbal': cymbals,
  'hand': hands, 'shaker': shakers, 'metal': metals, 'wood': woods, 'other': others,
}

/** Sounds made by chance, `perClass` of each class, altered as sounds are. */
export function* madeExamples(perClass: number, seed: number): Generator<Example> {
  for (const [label, makers] of Object.entries(MAKERS)) {
    for (let i = 0; i < perClass; i++) {
      const random = new Random(seed * 1_000_003 + i * 97 + label.length * 7919 + label.charCodeAt(0))
      const { samples, sampleRate } = altered(recorded(makers[i % makers.length]!(random), random), random)
      const { features } = measure([samples], sampleRate)
      if (features) yield { features, label, set: 'made', name: `${label} ${i}` }
    }
  }
}

/** A labelled recording as it is. */
function asExample({ samples, sampleRate, label, set, name }: Labelled): Example | undefined {
  const { features } = measure([samples], sampleRate)
  return features ? { features, label, set, name } : undefined
}

/** Recordings of a set as they are, each once: presets share many. */
export function* distinct(set: readonly Labelled[]): Generator<{ readonly recording: Labelled, readonly asIs: Example }> {
  const seen = new Set<string>()
  for (const recording of set) {
    const asIs = asExample(recording)
    const key = asIs?.features.join()
    if (!asIs || !key || seen.has(key)) continue
    seen.add(key)
    yield { recording, asIs }
  }
}

/** A labelled recording in `count` altered forms. */
export function* alteredExamples({ samples, sampleRate, label, set, name }: Labelled, count: number, seed: number): Generator<Example> {
  const [atSynthRate] = resample([samples.subarray(0, soundingFrames(samples))], sampleRate, SYNTH_RATE)
  for (let i = 0; i < count; i++) {
    const changed = altered(atSynthRate!, new Random(seed + i * 7919))
    const { features } = measure([changed.samples], changed.sampleRate)
    if (features) yield { features, label, set, name }
  }
}

/** Frames until nothing comes that is within 80 dB of the peak: silence takes as long to alter as sound. */
function soundingFrames(samples: Float32Array): number {
  const least = samples.reduce((high, value) => Math.max(high, Math.abs(value)), 0) * 1e-4
  return samples.findLastIndex(value => Math.abs(value) > least) + 1
}
