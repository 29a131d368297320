import { fromDb } from '../../audio/level'
import { encodeFrames } from '../../audio/wave/write'
import { EmporionError } from '../../errors'
import type { Kit, Layer, Pad } from '../../kit/document'
import { settingsOf } from '../../kit/voices'
import { ByteWriter, chunkBytes, infoBytes, listBytes } from '../riff'
import { hzToAbsoluteCents, PAIR_GAIN_DB } from '../units'
import { ditherFor, type MadeKit, type MadeSample } from '../write'
import { articulationBytes, DESTINATION as D, dlsTimecents } from './articulation'
import { DRUMS } from './instruments'

/** 1: what every player of DLS takes, one layer a note. 2: velocity ranges and filters. */
export type DlsLevel = 1 | 2

const GAIN_UNITS = 655_360
/** Waves are of 8 or 16 bits at both levels. Source: DLS 2.2, wave files. */
const WAVE_BITS = 16
/** Neither shorten nor compress the wave. Source: DLS 1.1b, `wsmp`. */
const KEEP_WHOLE = 3
/** A region that does not cut off an earlier hit of itself. Source: DLS 1.1b, `rgnh`. */
const NOT_EXCLUSIVE_OF_ITSELF = 1
const LEFT = 1
const RIGHT = 2
const LONGEST_SECONDS = 40
/** A fall of 60 dB of the 96 dB that DLS counts. */
const OF_60_DB = 96 / 60

/**
 * Writes kits as one collection of downloadable sounds, each a drum instrument (`F_INSTRUMENT_DRUMS`) with a region for each
 * layer, two for both sides of a stereo sample. Source: MMA Downloadable Sounds 1.1b and 2.2.
 *
 * @throws EmporionError `limit` when the file would pass what RIFF holds
 */
export function writeDls(kits: readonly MadeKit[], name: string, level: DlsLevel): Uint8Array {
  const pool = new WavePool()
  const instruments = kits.map((made, program) => instrument(made, program, pool, level))
  const { ptbl, wvpl } = pool.chunks()
  return listBytes('DLS ', [
    chunkBytes('colh', new ByteWriter().u32(kits.length).done),
    listBytes('lins', instruments),
    ptbl,
    wvpl,
    listBytes('INFO', [infoBytes('INAM', name || 'Kits'), infoBytes('ISFT', 'Emporion')]),
  ], 'RIFF')
}

class WavePool {
  private readonly waves: Uint8Array[] = []
  private readonly known = new Map<MadeSample, number>()

  /** The place of a sample's first wave; of stereo ones the right side follows. */
  add(sample: MadeSample): number {
    const known = this.known.get(sample)
    if (known !== undefined) return known
    const first = this.waves.length
    this.known.set(sample, first)
    const isPair = sample.channels.length > 1
    sample.channels.slice(0, 2).forEach((channel, side) => this.waves.push(this.wave(sample, channel, isPair ? `${sample.name} ${side === 0 ? 'L' : 'R'}` : sample.name, isPair)))
    return first
  }

  chunks(): { ptbl: Uint8Array, wvpl: Uint8Array } {
    const offsets: number[] = []
    let at = 0
    for (const wave of this.waves) {
      offsets.push(at)
      at += wave.length
    }
    if (at > 0xFFFF_0000) throw new EmporionError('limit', 'The waves would pass 4 GiB, where RIFF files end.')
    return { ptbl: chunkBytes('ptbl', new ByteWriter().u32(8, offsets.length, ...offsets).done), wvpl: listBytes('wvpl', this.waves) }
  }

  private wave(sample: MadeSample, channel: Float32Array, name: string, isPair: boolean): Uint8Array {
    const bits = WAVE_BITS
    const scaled = isPair ? channel.map(value => value * fromDb(-PAIR_GAIN_DB)) : channel
    const data = encodeFrames([scaled], { depth: bits, dither: ditherFor({ depth: bits, name }) })
    const rate = Math.round(sample.sampleRate)
    return listBytes('wave', [
      chunkBytes('fmt ', new ByteWriter().u16(1, 1).u32(rate, rate * bits / 8).u16(bits / 8, bits).done),
      chunkBytes('data', data),
      listBytes('INFO', [infoBytes('INAM', name)]),
    ])
  }
}

function instrument({ kit, samples }: MadeKit, program: number, pool: WavePool, level: DlsLevel): Uint8Array {
  let phaseGroup = 0
  const regions = kit.pads.flatMap(pad => pad.layers.flatMap((layer) => {
    const sample = samples.get(layer.sound.id)!
    const wave = pool.add(sample)
    if (sample.channels.length < 2) return [region(kit, pad, layer, { wave, pan: Math.round((layer.pan ?? pad.pan) * 500), phaseGroup: 0, channel: LEFT }, level)]
    phaseGroup++
    return [
      region(kit, pad, layer, { wave, pan: -500, phaseGroup, channel: LEFT }, level),
      region(kit, pad, layer, { wave: wave + 1, pan: 500, phaseGroup, channel: RIGHT }, level),
    ]
  }))
  return listBytes('ins ', [
    chunkBytes('insh', new ByteWriter().u32(regions.length, DRUMS, program).done),
    listBytes('lrgn', regions),
    listBytes('INFO', [infoBytes('INAM', kit.name)]),
  ])
}

interface Link {
  readonly wave: number
  readonly pan: number
  readonly phaseGroup: number
  readonly channel: number
}

function region(kit: Kit, pad: Pad, layer: Layer, { wave, pan, phaseGroup, channel }: Link, level: DlsLevel): Uint8Array {
  const notes = layer.notes ?? pad.range ?? { low: pad.note, high: pad.note, root: pad.note, trackCents: 100 }
  const head = new ByteWriter().u16(notes.low, notes.high, layer.lowVelocity === 1 ? 0 : layer.lowVelocity, layer.highVelocity, NOT_EXCLUSIVE_OF_ITSELF, pad.chokeGroup ?? 0)
  if (level === 2) head.u16(0)
  const gain = Math.round((kit.gainDb + pad.gainDb + layer.gainDb) * GAIN_UNITS)
  const cents = Math.round(pad.tuneCents + layer.tuneCents)
  return listBytes(level === 1 ? 'rgn ' : 'rgn2', [
    chunkBytes('rgnh', head.done),
    chunkBytes('wsmp', new ByteWriter().u32(20).u16(notes.root).i16(0).i32(gain).u32(KEEP_WHOLE, 0).done),
    chunkBytes('wlnk', new ByteWriter().u16(phaseGroup > 0 && channel === LEFT ? 1 : 0, phaseGroup).u32(channel, wave).done),
    listBytes(level === 1 ? 'lart' : 'lar2', [articulationBytes(level === 1 ? 'art1' : 'art2', articulation(pad, layer, pan, cents, level), notes.trackCents)]),
  ])
}

function articulation(pad: Pad, layer: Layer, pan: number, cents: number, level: DlsLevel): [number, number][] {
  const { envelope, filter } = settingsOf(pad, layer)
  const { attackSeconds, holdSeconds, decaySeconds, releaseSeconds } = envelope
  const values: [number, number][] = [[D.pan, pan]]
  if (cents !== 0) values.push([D.pitch, cents])
  if (attackSeconds > 0) values.push([D.attack, dlsTimecents(attackSeconds)])
  if (decaySeconds !== null) {
    if (level === 2 && holdSeconds > 0) values.push([D.hold, dlsTimecents(holdSeconds)])
    values.push([D.decay, dlsTimecents(decaySeconds * OF_60_DB)], [D.sustain, 0])
  }
  else values.push([D.sustain, 1000])
  values.push([D.release, dlsTimecents(pad.play === 'one-shot' ? LONGEST_SECONDS : Math.min(LONGEST_SECONDS - 2, releaseSeconds * OF_60_DB))])
  if (level === 2 && filter) values.push([D.cutoff, hzToAbsoluteCents(filter.cutoffHz)], [D.resonance, 0])
  return values
}
