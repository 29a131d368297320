import { measure } from '../core/audio/analysis/figures'
import type { SoundClass } from '../core/audio/kinds/classes'
import { resample } from '../core/audio/resample'
import { Random, SYNTH_RATE } from '../demo/synth/dsp'
import { altered, layered, recorded } from './augment'
import type { Labelled } from './openSets'
import * as circuits from './synth/circuits'
import * as digital from './synth/digital'
import * as meshes from './synth/meshes'
import { closedHats, cymbals, metals, openHats, shakers, woods } from './synth/metals'
import { particleShakers, particleWoods } from './synth/particles'
import { chance, type Maker } from './synth/parts'
import { rarerClosedHats, rarerCymbals, rarerOpenHats } from './synth/rarerBronze'
import { rarerClaps, rarerKicks, rarerRims, rarerSnares, rarerToms } from './synth/rarerDrums'
import { rarerHands } from './synth/rarerHands'
import { rarerMetals, rarerOthers, rarerShakers, rarerWoods } from './synth/rarerSmall'
import { claps, hands, kicks, others, rims, snares, toms } from './synth/skins'

/** A vector with the class that it belongs to. */
export interface Example {
  readonly features: Uint8Array
  readonly label: string
  readonly set: string
  readonly name: string
}

interface Makers {
  readonly usual: readonly Maker[]
  /** What packs hold less often. They are heard less often too: of equal numbers, the usual ones were recognised worse. */
  readonly rarer: readonly Maker[]
  /** The same kinds by other means: circuits, meshes, grains, and what early digital machines did. */
  readonly otherwise: readonly Maker[]
}

/** Whose turn it is, over and over. */
const TURNS = ['rarer', 'usual', 'otherwise', 'usual'] as const satisfies readonly (keyof Makers)[]

const MAKERS: Readonly<Record<SoundClass, Makers>> = {
  'kick': { usual: kicks, rarer: rarerKicks, otherwise: [...circuits.circuitKicks, ...meshes.meshKicks, ...digital.digitalKicks] },
  'snare': { usual: snares, rarer: rarerSnares, otherwise: [...circuits.circuitSnares, ...meshes.meshSnares, ...digital.digitalSnares] },
  'rim': { usual: rims, rarer: rarerRims, otherwise: [...circuits.circuitRims, ...digital.digitalRims] },
  'clap': { usual: claps, rarer: rarerClaps, otherwise: [...circuits.circuitClaps, ...digital.digitalClaps] },
  'tom': { usual: toms, rarer: rarerToms, otherwise: [...circuits.circuitToms, ...meshes.meshToms, ...digital.digitalToms] },
  'hat.closed': { usual: closedHats, rarer: rarerClosedHats, otherwise: [...circuits.circuitClosedHats, ...digital.digitalClosedHats] },
  'hat.open': { usual: openHats, rarer: rarerOpenHats, otherwise: [...circuits.circuitOpenHats, ...digital.digitalOpenHats] },
  'cymbal': { usual: cymbals, rarer: rarerCymbals, otherwise: [...circuits.circuitCymbals, ...digital.digitalCymbals] },
  'hand': { usual: hands, rarer: rarerHands, otherwise: [...circuits.circuitHands, ...meshes.meshHands] },
  'shaker': { usual: shakers, rarer: rarerShakers, otherwise: [...circuits.circuitShakers, ...particleShakers] },
  'metal': { usual: metals, rarer: rarerMetals, otherwise: [...circuits.circuitMetals, ...digital.digitalMetals] },
  'wood': { usual: woods, rarer: rarerWoods, otherwise: [...circuits.circuitWoods, ...digital.digitalWoods, ...particleWoods] },
  'other': { usual: others, rarer: rarerOthers, otherwise: others },
}

/** Sounds made by chance, `perClass` of each class, altered as sounds are. */
export function* madeExamples(perClass: number, seed: number): Generator<Example> {
  for (const [label, makersOf] of Object.entries(MAKERS)) {
    for (let i = 0; i < perClass; i++) {
      const random = new Random(seed * 1_000_003 + i * 97 + label.length * 7919 + label.charCodeAt(0))
      const makers = makersOf[TURNS[i % TURNS.length]!]
      const { samples, sampleRate } = altered(recorded(makers[Math.floor(i / TURNS.length) % makers.length]!(random), random), random)
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

/** How often a recording is laid over another one before it is altered. */
const LAYERED = 0.4

/** A labelled recording in `count` altered forms; `mates` are others of its class, of which one may be laid over it. */
export function* alteredExamples(recording: Labelled, mates: readonly Labelled[], count: number, seed: number): Generator<Example> {
  const { label, set, name } = recording
  const plain = atSynthRate(recording)
  for (let i = 0; i < count; i++) {
    const random = new Random(seed + i * 7919)
    const isLayered = mates.length > 0 && chance(random, LAYERED)
    const changed = altered(isLayered ? layered(plain, atSynthRate(random.pick(mates)), random) : plain, random)
    const { features } = measure([changed.samples], changed.sampleRate)
    if (features) yield { features, label, set, name }
  }
}

function atSynthRate({ samples, sampleRate }: Labelled): Float32Array {
  return resample([samples.subarray(0, soundingFrames(samples))], sampleRate, SYNTH_RATE)[0]!
}

/** Frames until nothing comes that is within 80 dB of the peak: silence takes as long to alter as sound. */
function soundingFrames(samples: Float32Array): number {
  const least = samples.reduce((high, value) => Math.max(high, Math.abs(value)), 0) * 1e-4
  return samples.findLastIndex(value => Math.abs(value) > least) + 1
}
