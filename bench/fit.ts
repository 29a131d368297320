import { execFileSync } from 'node:child_process'
import { copyFileSync, readFileSync, statSync } from 'node:fs'
import { open } from 'node:fs/promises'
import { join } from 'node:path'
import { decodeAudio } from '../core/audio/decode'
import { tpdfDither } from '../core/audio/dither'
import { resample } from '../core/audio/resample'
import { writeWave } from '../core/audio/wave/write'
import { bakingOf } from '../core/fit/apply'
import { bakeUnit } from '../core/fit/bake'
import { measureSample, type SampleMeasure } from '../core/fit/measure'
import { planFit } from '../core/fit/plan'
import { shippedTarget } from '../core/fit/shipped'
import type { Target } from '../core/fit/target'
import { unitsOf } from '../core/fit/units'
import { openBank } from '../core/formats/sf2/bank'
import { readPreset } from '../core/formats/sf2/read'
import { writeSf2 } from '../core/formats/sf2/write'
import type { MadeSample } from '../core/formats/write'
import { emptyKit, emptyPad, type Kit } from '../core/kit/document'
import { velocityRanges } from '../core/kit/ranges'
import { listForeign } from '../server/fit/foreign'
import { anywhere } from '../server/base/opener'
import { withFile } from '../server/fit/fileSource'
import { realDisk } from '../server/base/disk'
import { identify, layerOf, NO_WISHES, Sounds } from '../tests/helpers/fit'
import { freshFolder } from '../tests/helpers/folder'
import { median, timed, type Figure } from './measure'

const RUNS = 5
const PADS = 128
const LAYERS = 4

/** Planning, converting, and SoundFont banks, each beside something that does the same or less in the same run. */
export async function* benchFit(): AsyncGenerator<Figure> {
  yield* planFigures()
  yield* await convertFigures()
  yield* await bankFigures()
}

/** A kit of 128 pads with 4 layers, and limits that make nearly every sample give. */
function* planFigures(): Generator<Figure> {
  const sounds = new Sounds()
  const ranges = velocityRanges(LAYERS)
  const kit: Kit = { ...emptyKit('Large'), pads: Array.from({ length: PADS }, (_, p) => ({ ...emptyPad(p), layers: ranges.map((range, l) => layerOf(sounds.hit(`${p} ${l}`, p * LAYERS + l, { seconds: 0.3 + p % 9 / 5, stereo: true }), { lowVelocity: range.low, highVelocity: range.high })) })) }
  const shipped = (id: string) => shippedTarget(id)!
  const limited = (id: string, limits: Partial<Target['limits']>): Target => ({ ...shipped(id), limits: { ...shipped(id).limits, ...limits } })
  const cases: readonly (readonly [string, Target])[] = [
    ['Lembos, 45 s and 48 slots', shipped('lembos')], ['Kerkouros with 40 MB', limited('kerkouros', { bytes: 40_000_000 })], ['Holkas with 20 MB and 200 s', limited('holkas', { bytes: 20_000_000, seconds: 200 })],
  ]
  for (const [name, target] of cases) {
    const measures = new Map<string, SampleMeasure>()
    const start = performance.now()
    for (const pad of unitsOf(kit, target)) pad.units.forEach((unit, at) => measures.set(`${pad.padIndex} ${at}`, measureSample(bakeUnit(kit, kit.pads[pad.padIndex]!, unit, bakingOf(target, pad), sounds.of), 24)))
    const measured = performance.now() - start
    const times = Array.from({ length: RUNS }, () => {
      const begun = performance.now()
      planFit(kit, target, (padIndex, at) => measures.get(`${padIndex} ${at}`)!, NO_WISHES)
      return performance.now() - begun
    })
    yield { name: `plan of ${PADS} pads x ${LAYERS} layers: ${name}`, value: median(times), unit: 'ms', yardstick: { name: 'the 2 s that are wanted at most', value: 2000 }, note: `measuring its ${PADS * LAYERS} samples took ${(measured / 1000).toFixed(1)} s` }
  }
}

/** 60 s of 48 kHz, 24 bit, stereo to 44.1 kHz, 16 bit with dither, read from a file and flushed into one. */
async function convertFigures(): Promise<Figure[]> {
  const folder = freshFolder()
  const frames = 60 * 48_000
  const channels = [0, 1].map(side => Float32Array.from({ length: frames }, (_, i) => 0.4 * Math.sin(i * (0.03 + side * 0.01)) * Math.exp(-(i % 48_000) / 12_000)))
  const source = join(folder, 'in.wav')
  await realDisk.writeFile(source, writeWave(channels, 48_000, { depth: 24 }))
  const ours: number[] = []
  const theirs: number[] = []
  for (let run = 0; run < RUNS; run++) {
    theirs.push(await timed(() => execFileSync('sox', [source, '-r', '44100', '-b', '16', join(folder, `sox ${run}.wav`)])))
    ours.push(await timed(async () => {
      const audio = await decodeAudio(await realDisk.readFile(source))
      await realDisk.writeFile(join(folder, `ours ${run}.wav`), writeWave(resample(audio.channels, 48_000, 44_100), 44_100, { depth: 16, dither: tpdfDither(run) }))
    }))
  }
  return [{ name: '60 s to another rate and depth', value: median(ours), unit: 'ms', yardstick: { name: 'sox in one process', value: median(theirs) } }]
}

/** A bank of 150 MB: written, listed, and its preset read whole. */
async function bankFigures(): Promise<Figure[]> {
  const folder = freshFolder()
  const frames = 390_000
  const kit: Kit = { ...emptyKit('Bank'), pads: Array.from({ length: PADS }, (_, p) => emptyPad(p)) }
  const samples = new Map<string, MadeSample>()
  const pads = kit.pads.map((pad, p) => {
    const channel = Float32Array.from({ length: frames }, (_, i) => 0.4 * Math.sin(i * (0.01 + p * 0.002)))
    const id = p.toString(16).padStart(64, '0')
    samples.set(id, { name: `Sample ${p}`, title: `Sample ${p}`, channels: [channel], sampleRate: 48_000, depth: 24 })
    return { ...pad, layers: [layerOf({ id, name: `Sample ${p}`, frames, sampleRate: 48_000, channels: 1 })] }
  })
  const path = join(folder, 'bank.sf2')
  const write = await timed(async () => realDisk.writeFile(path, writeSf2([{ kit: { ...kit, pads }, samples }], 'Bank')))
  const bytes = statSync(path).size
  const copies = await Promise.all([1, 2, 3].map(async (n) => {
    const to = join(folder, `copy ${n}.sf2`)
    return timed(async () => {
      copyFileSync(path, to)
      const handle = await open(to, 'r')
      await handle.sync()
      await handle.close()
    })
  }))
  const copy = { name: `a plain copy of it, ${(bytes / 1e6).toFixed(0)} MB`, value: median(copies) }
  const list = await timed(() => listForeign(path, anywhere(path)))
  const read = await timed(() => withFile(path, anywhere(path), async source => readPreset(await openBank(source), 0, identify)))
  const plain = await timed(() => readFileSync(path))
  return [
    { name: 'a SoundFont bank written and flushed', value: write, unit: 'ms', yardstick: copy },
    { name: 'its presets listed', value: list, unit: 'ms', yardstick: { name: 'the 2 s that are wanted at most', value: 2000 } },
    { name: 'its preset read whole, every sample known by its audio', value: read, unit: 'ms', yardstick: copy, note: `reading the file alone took ${plain.toFixed(0)} ms` },
  ]
}
