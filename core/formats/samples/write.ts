import { quantized } from '../../audio/dither'
import { writeWave } from '../../audio/wave/write'
import { TICKS_PER_QUARTER } from '../../groove/document'
import { writeMidi } from '../../groove/midi/write'
import type { MiddleC } from '../../audio/notes'
import type { Kit } from '../../kit/document'
import { ditherFor, utf8, type MadeKit, type MadeSample, type WrittenFile } from '../write'
import { INDEX_NAME, writeIndex, type SampleEntry } from './index'

export interface SampleSetOptions {
  /** Whether a list and a MIDI file that plays every pad once lie beside the samples. */
  readonly index: boolean
  readonly middleC: MiddleC
  /** The bank and the number of a pad, by its place. */
  readonly placeOf: (slot: number) => { readonly bank: string, readonly pad: number }
}

export const MIDI_NAME = 'every pad once.mid'
const PAD_TICKS = TICKS_PER_QUARTER
const PAD_VELOCITY = 100

/**
 * Writes the samples of a kit as WAVE files, with their root notes (`smpl`) and names (`LIST/INFO`), and, if asked, a list (CSV) and a
 * Standard MIDI File that plays every pad once, a quarter note each.
 */
export function writeSampleSet(made: MadeKit, options: SampleSetOptions): WrittenFile[] {
  const { kit, samples } = made
  const files = new Map<MadeSample, WrittenFile>()
  for (const pad of kit.pads) {
    for (const layer of pad.layers) {
      const sample = samples.get(layer.sound.id)!
      if (!files.has(sample)) files.set(sample, { path: `${sample.name}.wav`, bytes: waveOf(sample, pad.note, pad.name || sample.title) })
    }
  }
  if (!options.index) return [...files.values()]
  return [...files.values(), { path: INDEX_NAME, bytes: sampleSetIndex(made, options, sample => files.get(sample)!.bytes.length) }, { path: MIDI_NAME, bytes: everyPadOnce(kit) }]
}

/** The list that lies beside a set of samples. */
export function sampleSetIndex({ kit, samples }: MadeKit, { middleC, placeOf }: SampleSetOptions, bytesOf: (sample: MadeSample) => number): Uint8Array {
  const entries = kit.pads.flatMap((pad, slot) => pad.layers.map((layer): SampleEntry => {
    const sample = samples.get(layer.sound.id)!
    return {
      file: `${sample.name}.wav`, ...placeOf(slot), note: pad.note, kind: pad.role, name: pad.name || sample.title, layer: sample.title,
      lowVelocity: layer.lowVelocity, highVelocity: layer.highVelocity, turn: layer.turn, chokeGroup: pad.chokeGroup,
      seconds: layer.sound.frames / layer.sound.sampleRate, bytes: bytesOf(sample),
    }
  }))
  return utf8(writeIndex(entries, middleC))
}

/** A sample as a WAVE file; integers of 16 bits and less are dithered. Those of 12 bits lie in the upper end of 16, as every reader takes them. */
export function waveOf(sample: MadeSample, rootNote: number | undefined, title: string): Uint8Array {
  const { depth } = sample
  const dither = ditherFor(sample)
  return writeWave(depth === 12 ? sample.channels.map(channel => quantized(channel, depth, dither)) : sample.channels, Math.round(sample.sampleRate), {
    depth: depth === 12 ? 16 : depth,
    isPlain: true,
    dither: depth === 12 ? undefined : dither,
    embedded: { ...(rootNote === undefined ? {} : { rootNote }), info: { INAM: title.slice(0, 60), ISFT: 'Emporion' } },
  })
}

function everyPadOnce(kit: Kit): Uint8Array {
  const notes = kit.pads.filter(pad => pad.layers.length > 0).map((pad, i) => ({ tick: i * PAD_TICKS, length: PAD_TICKS / 2, note: pad.note, velocity: PAD_VELOCITY }))
  return writeMidi([{ name: kit.name, notes }], { format: 0, name: kit.name, tempoBpm: 120, metre: { beats: 4, unit: 4 }, endTick: notes.length * PAD_TICKS, channel: 10 })
}
