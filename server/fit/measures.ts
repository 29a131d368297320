import { createHash, randomUUID } from 'node:crypto'
import { mkdir, readFile, rename, stat, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { decodeAudio } from '../../core/audio/decode'
import type { DecodedAudio } from '../../core/audio/decoded'
import { EmporionError, messageOf } from '../../core/errors'
import { bakingOf } from '../../core/fit/apply'
import { bakeUnit, type Audio } from '../../core/fit/bake'
import { MEASURE_VERSION, measureSample, type SampleMeasure } from '../../core/fit/measure'
import { sampleKey } from '../../core/fit/sampleKey'
import { isLossless, type Target } from '../../core/fit/target'
import { unitsOf } from '../../core/fit/units'
import type { Kit, Layer } from '../../core/kit/document'
import { realDisk } from '../base/disk'
import type { LoadedKit, Steering } from './loadedKit'
import type { KitMeasures } from '../../contract/fit'

/** Audio kept at hand while pads are gone through, in frames. */
const MOST_FRAMES_HELD = 40_000_000

/** The decoded audio of a kit's sounds, as many at a time as memory allows. */
export class KitAudio {
  private readonly held = new Map<string, DecodedAudio>()
  private frames = 0

  constructor(private readonly loaded: LoadedKit) {}

  /** Makes the sounds of a pad ready, so that `of` can give them. @throws EmporionError `not-found` */
  async ready(layers: readonly Layer[]): Promise<void> {
    for (const { sound } of layers) {
      const known = this.held.get(sound.id)
      if (known) {
        this.held.delete(sound.id)
        this.held.set(sound.id, known)
        continue
      }
      const path = await this.loaded.locate(sound.id)
      if (!path) throw new EmporionError('not-found', { what: `The sample "${sound.name}" is nowhere to be found.`, kept: 'Nothing was written.', next: 'Bring its folder in again, or take it off its pad.' })
      const audio = await decodeAudio(await realDisk.readFile(path)).catch((thrown: unknown) => {
        throw new EmporionError('unreadable', { what: `The sample "${sound.name}" cannot be read: ${messageOf(thrown)}`, kept: 'Nothing was written.' })
      })
      this.held.set(sound.id, audio)
      this.frames += audio.frames * audio.channels.length
    }
    const needed = new Set(layers.map(layer => layer.sound.id))
    for (const [id, audio] of this.held) {
      if (this.frames <= MOST_FRAMES_HELD) break
      if (needed.has(id)) continue
      this.held.delete(id)
      this.frames -= audio.frames * audio.channels.length
    }
  }

  readonly of = (layer: Layer): Audio => this.held.get(layer.sound.id)!

  /** Bits of a sample in the file of a layer. */
  bitsOf(layer: Layer): number {
    return this.held.get(layer.sound.id)!.facts.bitDepth
  }
}

/**
 * Measures every sample that a kit would need on a target. What was measured before is taken from the cache.
 *
 * @param cacheDir null: nothing is kept
 */
export async function measureKit(loaded: LoadedKit, target: Target, cacheDir: string | null, { signal, onStep }: Steering): Promise<KitMeasures> {
  const { kit } = loaded
  const audio = new KitAudio(loaded)
  const pads = unitsOf(kit, target)
  const total = pads.reduce((sum, pad) => sum + pad.units.length, 0)
  const out: Record<number, SampleMeasure[]> = {}
  let done = 0
  for (const pad of pads) {
    const { padIndex, units } = pad
    const own: SampleMeasure[] = []
    for (const unit of units) {
      signal.throwIfAborted()
      const layers = unit.layers.map(index => kit.pads[padIndex]!.layers[index]!)
      const key = createHash('sha256').update(`${MEASURE_VERSION} ${sampleKey(kit, unit, pad, target)}`).digest('hex')
      let measure = cacheDir === null ? undefined : await fromCache(cacheDir, key)
      if (!measure) {
        await audio.ready(layers)
        measure = measureSample(bakeUnit(kit, kit.pads[padIndex]!, unit, bakingOf(target, pad), audio.of), Math.max(...layers.map(layer => audio.bitsOf(layer))))
        if (cacheDir !== null) await intoCache(cacheDir, key, measure)
      }
      // Not kept with the measure: the same audio may lie in another file by now.
      own.push(isLossless(target) ? { ...measure, fileBytes: await fileBytesOf(loaded, layers) } : measure)
      onStep(++done, total, layers[0]!.sound.name, 0)
    }
    out[padIndex] = own
  }
  return out
}

async function fileBytesOf({ locate }: LoadedKit, layers: readonly Layer[]): Promise<number> {
  const paths = await Promise.all([...new Set(layers.map(layer => layer.sound.id))].map(id => locate(id)))
  const sizes = await Promise.all(paths.flatMap(path => path === undefined ? [] : [stat(path).then(({ size }) => size, () => 0)]))
  return sizes.reduce((sum, size) => sum + size, 0)
}

/** What a plan asks for, out of measures. */
export function measureFrom(measures: KitMeasures): (padIndex: number, at: number) => SampleMeasure {
  return (padIndex, at) => measures[padIndex]![at]!
}

/** The kit without the pads whose samples are missing, and the names of those. */
export function withoutMissing(kit: Kit, missing: ReadonlySet<string>): Kit {
  return { ...kit, pads: kit.pads.map(pad => pad.layers.some(layer => missing.has(layer.sound.id)) ? { ...pad, layers: pad.layers.filter(layer => !missing.has(layer.sound.id)) } : pad) }
}

async function fromCache(cacheDir: string, key: string): Promise<SampleMeasure | undefined> {
  const text = await readFile(placeOf(cacheDir, key), 'utf8').catch(() => undefined)
  if (text === undefined) return undefined
  try {
    return JSON.parse(text) as SampleMeasure
  }
  catch {
    return undefined
  }
}

async function intoCache(cacheDir: string, key: string, measure: SampleMeasure): Promise<void> {
  const place = placeOf(cacheDir, key)
  const part = `${place}.${randomUUID().slice(0, 8)}.part`
  await mkdir(join(cacheDir, 'fit', key.slice(0, 2)), { recursive: true })
  await writeFile(part, JSON.stringify(measure))
  await rename(part, place)
}

function placeOf(cacheDir: string, key: string): string {
  return join(cacheDir, 'fit', key.slice(0, 2), `${key}.json`)
}
