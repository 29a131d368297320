import { LRUCache } from 'lru-cache'
import { SOUNDS_URL } from '~~/contract/soundsUrl'
import { averageSpectrum } from '~~/core/audio/analysis/averageSpectrum'
import { loudnessOf } from '~~/core/audio/analysis/loudness'
import { decodeAudio } from '~~/core/audio/decode'
import { quantized } from '~~/core/audio/dither'
import { fromDb, toDb } from '~~/core/audio/level'
import { waveformOverview } from '~~/core/audio/overview'
import { resample } from '~~/core/audio/resample'
import { messageOf } from '~~/core/errors'
import { bakingOf } from '~~/core/fit/apply'
import { bakeUnit, type Audio } from '~~/core/fit/bake'
import type { Arranging } from '~~/core/fit/arrange'
import { planFit, type FitPlan, type PlanRow, type Wishes } from '~~/core/fit/plan'
import { reshape } from '~~/core/fit/reshape'
import type { Target } from '~~/core/fit/target'
import { unitsOf } from '~~/core/fit/units'
import type { Variant } from '~~/core/fit/variants'
import { ditherFor } from '~~/core/formats/write'
import type { Kit, Layer } from '~~/core/kit/document'
import type { KitMeasures } from '~~/contract/fit'

/** What the page asks of the worker that fits. */
export type FitRequest =
  | { readonly id: number, readonly type: 'plan', readonly kit: Kit, readonly target: Target, readonly measures: KitMeasures, readonly wishes: Wishes, readonly way: Arranging }
  | { readonly id: number, readonly type: 'sound', readonly kit: Kit, readonly target: Target, readonly row: PlanRow, readonly engineRate: number }

export type FitAnswer =
  | { readonly id: number, readonly plan: FitPlan }
  | { readonly id: number, readonly sound: FittedSound }
  | { readonly id: number, readonly error: string }

/** One way that a sound is heard, at the engine's rate. */
export interface HeardSide {
  readonly channels: readonly Float32Array<ArrayBuffer>[]
  readonly outline: Int8Array<ArrayBuffer>
  /** See `averageSpectrum`, against the strongest band of the sound before. */
  readonly spectrum: Float32Array<ArrayBuffer>
}

/** A sound before and after, brought to one loudness, and what lies between the two. */
export interface FittedSound {
  readonly before: HeardSide
  /** Null for one that is dropped or left out: nothing is left to be heard. */
  readonly after: HeardSide | null
  readonly difference: HeardSide | null
  readonly seconds: number
  readonly matchedDb: number
  /** Level of the difference under the sound before, in dB. */
  readonly differenceDb: number | null
}

const OUTLINE_COLUMNS = 600
const MOST_SOUNDS = 24

self.addEventListener('message', (event: MessageEvent<FitRequest>) => void answer(event.data))

async function answer(request: FitRequest): Promise<void> {
  try {
    if (request.type === 'plan') {
      const { kit, target, measures, wishes, way } = request
      self.postMessage({ id: request.id, plan: planFit(kit, target, (padIndex, at) => measures[padIndex]![at]!, wishes, way) } satisfies FitAnswer)
      return
    }
    const sound = await fitted(request)
    const sides = [sound.before, sound.after, sound.difference].filter(side => side !== null)
    self.postMessage({ id: request.id, sound } satisfies FitAnswer, { transfer: sides.flatMap(side => side.channels.map(channel => channel.buffer)) })
  }
  catch (thrown) {
    self.postMessage({ id: request.id, error: messageOf(thrown) } satisfies FitAnswer)
  }
}

const decoded = new LRUCache<string, Audio>({ max: MOST_SOUNDS })

async function audioOf(soundId: string): Promise<Audio> {
  const known = decoded.get(soundId)
  if (known) return known
  const response = await fetch(`${SOUNDS_URL}/${soundId}`)
  if (!response.ok) throw new Error('The sound could not be fetched from Emporion\'s server.')
  const audio = await decodeAudio(new Uint8Array(await response.arrayBuffer()))
  decoded.set(soundId, audio)
  return audio
}

async function fitted({ kit, target, row, engineRate }: Extract<FitRequest, { type: 'sound' }>): Promise<FittedSound> {
  const pad = kit.pads[row.padIndex]!
  const layers = row.unit.layers.map(index => pad.layers[index]!)
  const sounds = new Map<string, Audio>()
  for (const { sound } of layers) sounds.set(sound.id, await audioOf(sound.id))
  const own = unitsOf(kit, target).find(one => one.padIndex === row.padIndex)!
  const baked = bakeUnit(kit, pad, row.unit, bakingOf(target, own), (layer: Layer) => sounds.get(layer.sound.id)!)
  const before = resample(baked.channels, baked.sampleRate, engineRate)
  const after = row.variant && written(baked, row.variant, pad.name, engineRate)
  const spectrumBefore = averageSpectrum(before, engineRate)
  const seconds = before[0]!.length / engineRate
  if (!after) return { before: side(before, spectrumBefore, before[0]!.length), after: null, difference: null, seconds, matchedDb: 0, differenceDb: null }
  const matchedDb = Math.max(-12, Math.min(12, loudnessOf(before, engineRate).hitLufs - loudnessOf(after, engineRate).hitLufs)) || 0
  const frames = Math.max(before[0]!.length, after[0]!.length)
  // One channel is heard on both sides.
  const wide = [0, 1].map(s => ({ a: before[s] ?? before[0]!, b: after[s] ?? after[0]! }))
  const gain = fromDb(matchedDb)
  const matched = (before.length > 1 || after.length > 1 ? wide : wide.slice(0, 1)).map(({ b }) => Float32Array.from({ length: frames }, (_, i) => (b[i] ?? 0) * gain))
  const difference = matched.map((channel, s) => Float32Array.from(channel, (value, i) => (wide[s]!.a[i] ?? 0) - value))
  const power = (channels: readonly Float32Array[]) => channels.reduce((sum, channel) => sum + channel.reduce((squares, value) => squares + value * value, 0) / channels.length, 1e-20)
  return {
    before: side(before, spectrumBefore, frames),
    after: side(matched, averageSpectrum(matched, engineRate), frames),
    difference: side(difference, averageSpectrum(difference, engineRate), frames),
    seconds, matchedDb,
    differenceDb: Math.max(-120, toDb(Math.sqrt(power(difference) / power(before)))),
  }
}

/** What the target would play: folded, cut, at its rate, and rounded to its depth. */
function written(baked: Audio, variant: Variant, name: string, engineRate: number): readonly Float32Array[] {
  const { channels, sampleRate } = reshape(baked, variant)
  const { depth } = variant
  const rounded = depth === 'float' ? channels : channels.map(channel => quantized(channel, depth, ditherFor({ depth, name })))
  return resample(rounded, sampleRate, engineRate)
}

/** Filled up with silence, so that all sides are drawn over the same time. */
function side(channels: readonly Float32Array[], spectrum: Float32Array, frames: number): HeardSide {
  const whole = channels.map((channel) => {
    const out = new Float32Array(frames)
    out.set(channel.subarray(0, frames))
    return out
  })
  return { channels: whole, outline: new Int8Array(waveformOverview(whole, OUTLINE_COLUMNS)), spectrum: new Float32Array(spectrum) }
}
