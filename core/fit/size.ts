import { bytesOfDepth, type MadeKit } from '../formats/write'
import { sampleSetIndex } from '../formats/samples/write'
import type { Kit } from '../kit/document'
import { INDEX_NAME } from '../formats/samples/index'
import { shapesOf, type SampleShape } from './apply'
import type { Arranging } from './arrange'
import type { FitPlan } from './plan'
import type { Target } from './target'
import { sampleSetOptions, writeForTarget } from './write'

/**
 * The bytes of all files of a kit that a plan would write, exactly: what is written without any audio, and what the audio takes.
 * The reports that lie beside are not counted, nor is a kit package, whose samples are copies of files.
 */
export function sizeOf(kit: Kit, target: Target, plan: Pick<FitPlan, 'rows' | 'pads'>, way: Arranging): number {
  const { kit: made, samples } = shapesOf({ kit, target, plan, way })
  const all = [...samples.values()]
  const hollow: MadeKit = { kit: made, samples: new Map([...samples].map(([id, { name, title, channels, sampleRate, depth }]) => [id, { name, title, channels: Array.from({ length: channels }, () => new Float32Array(0)), sampleRate, depth }])) }
  const files = writeForTarget(hollow, target)
  const bare = files.reduce((sum, { bytes }) => sum + bytes.length, 0)
  switch (target.writes) {
    case 'sf2':
      return bare + sf2Audio(all)
    case 'dls-1':
    case 'dls-2':
      return bare + all.reduce((sum, { frames, channels }) => sum + frames * channels * 2, 0)
    case 'sfz':
      return bare + all.reduce((sum, shape) => sum + waveAudio(shape), 0)
    default:
      return bare + all.reduce((sum, shape) => sum + waveAudio(shape), 0) + indexGrowth(hollow, samples, target, files)
  }
}

/** Samples of a WAVE file, filled up to an even number. */
function waveAudio({ frames, channels, depth }: SampleShape): number {
  const bytes = frames * channels * bytesOfDepth(depth)
  return bytes + bytes % 2
}

/** A bank is of 24 bits as a whole where any sample is: 16 in one chunk, the rest in another, filled up to an even number. */
function sf2Audio(all: readonly SampleShape[]): number {
  const frames = all.reduce((sum, shape) => sum + shape.frames * shape.channels, 0)
  return frames * 2 + (all.some(({ depth }) => depth !== 16) ? frames + frames % 2 : 0)
}

/** The list of a sample set tells how long its files are. */
function indexGrowth(hollow: MadeKit, samples: ReadonlyMap<string, SampleShape>, target: Target, files: ReturnType<typeof writeForTarget>): number {
  const written = files.find(({ path }) => path === INDEX_NAME)
  if (!written) return 0
  const shapes = new Map([...hollow.samples].map(([id, sample]) => [sample, samples.get(id)!]))
  const bare = new Map(files.map(({ path, bytes }) => [path, bytes.length]))
  return sampleSetIndex(hollow, sampleSetOptions(target), sample => bare.get(`${sample.name}.wav`)! + waveAudio(shapes.get(sample)!)).length - written.bytes.length
}
