import { fromDb } from '../../audio/level'
import { EmporionError } from '../../errors'
import type { Envelope, Filter, Kit, Layer, Pad } from '../../kit/document'
import { ByteWriter, chunkBytes, infoBytes, listBytes } from '../riff'
import { hzToAbsoluteCents, PAIR_GAIN_DB, secondsToTimecents } from '../units'
import { ditherFor, type MadeKit, type MadeSample } from '../write'
import { PERCUSSION_BANK } from './bank'
import { GENERATOR as G } from './generators'

/** Silence after each sample. Source: SoundFont 2.04, 6.1. */
const ZEROS_AFTER = 46
const LONGEST_NAME = 20
const MOST_KITS = 128
/** Written even where they are nothing. */
const ALWAYS: ReadonlySet<number> = new Set([G.sampleId, G.rootKey, G.attackVolEnv, G.holdVolEnv, G.decayVolEnv, G.releaseVolEnv])
const LOWEST = -12_000
const LONGEST_ATTACK = 5_000
const LONGEST_RELEASE = 8_000
/** A fall of 60 dB of the 100 dB that SoundFont counts. */
const OF_60_DB = 1 / 0.6
/** Velocity to filter cutoff, which players have by default: set to nothing. Source: SoundFont 2.04, 8.4.2. */
const VELOCITY_TO_CUTOFF = { source: 0x0102, destination: 8, amount: 0, amountSource: 0, transform: 0 }

/** Where a sample lies in the file: one record for mono, two for both sides. */
interface Placed {
  readonly first: number
  readonly isPair: boolean
}

/**
 * Writes kits as one SoundFont bank: each a preset of the percussion bank with an instrument for each pad. 24 bits go into the
 * `sm24` chunk where any sample asks for them. Gains are expected in the samples, since SoundFont can only attenuate, and players
 * differ in how far; a filter is a low-pass one without a peak, which players level each in their own way. Source: SoundFont 2.04 technical specification, 4 to 9.
 *
 * @throws EmporionError `limit` for more kits than a bank has programs, or a file that RIFF cannot hold
 */
export function writeSf2(kits: readonly MadeKit[], bankName: string): Uint8Array {
  if (kits.length > MOST_KITS) throw new EmporionError('limit', `A SoundFont bank takes ${MOST_KITS} drum kits, not ${kits.length}.`)
  const samples = new SampleData()
  const tables = new Tables()
  kits.forEach(({ kit, samples: made }, program) => {
    const placed = new Map([...made].map(([id, sample]) => [id, samples.add(sample)]))
    tables.preset(kit, program, placed)
  })
  const info = listBytes('INFO', [
    chunkBytes('ifil', new ByteWriter().u16(2, 4).done),
    infoBytes('isng', 'EMU8000'),
    infoBytes('INAM', bankName || 'Kits'),
    infoBytes('ISFT', 'Emporion'),
  ])
  return listBytes('sfbk', [info, listBytes('sdta', samples.chunks()), listBytes('pdta', [...tables.chunks(), chunkBytes('shdr', samples.headers())])], 'RIFF')
}

/** The samples chunk and the headers that tell its parts. */
class SampleData {
  private readonly words: Uint8Array[] = []
  private readonly lows: Uint8Array[] = []
  private readonly shdr = new ByteWriter()
  private readonly known = new Map<MadeSample, Placed>()
  private readonly names = new Set<string>()
  private frames = 0
  private count = 0
  private isDeep = false

  add(sample: MadeSample): Placed {
    const known = this.known.get(sample)
    if (known) return known
    const isPair = sample.channels.length > 1
    const first = this.count
    const name = this.freeName(sample.name, isPair ? LONGEST_NAME - 3 : LONGEST_NAME - 1)
    if (sample.depth !== 16) this.isDeep = true
    if (isPair) {
      this.side(sample, 0, `${name} L`, 4, first + 1)
      this.side(sample, 1, `${name} R`, 2, first)
    }
    else this.side(sample, 0, name, 1, 0)
    const placed = { first, isPair }
    this.known.set(sample, placed)
    return placed
  }

  headers(): Uint8Array {
    return this.shdr.text('EOS', 20).u32(0, 0, 0, 0, 0).u8(0).i8(0).u16(0, 0).done
  }

  chunks(): Uint8Array[] {
    return [chunkBytes('smpl', ...this.words), ...this.isDeep ? [chunkBytes('sm24', ...this.lows)] : []]
  }

  private side(sample: MadeSample, channel: number, name: string, type: number, link: number): void {
    const audio = sample.channels[channel]!
    const { words, lows } = encode(audio, sample, `${name} ${channel}`)
    this.words.push(words)
    this.lows.push(lows)
    const start = this.frames
    const end = start + audio.length
    this.shdr.text(name, 20).u32(start, end, start, end, Math.round(sample.sampleRate)).u8(60).i8(0).u16(link, type)
    this.frames = end + ZEROS_AFTER
    this.count++
  }

  /** Names that differ from each other, capitals or not. */
  private freeName(wanted: string, longest: number): string {
    for (let n = 1; ; n++) {
      const suffix = n === 1 ? '' : ` ${n}`
      const name = wanted.replace(/[^ -~]/g, '_').slice(0, longest - suffix.length).trim() + suffix
      if (this.names.has(name.toLowerCase())) continue
      this.names.add(name.toLowerCase())
      return name
    }
  }
}

/** 16 bit words, and the 8 bits below them, each followed by silence. A side of a pair is lowered to what it is in a kit. */
function encode(audio: Float32Array, { depth, channels }: MadeSample, name: string): { words: Uint8Array, lows: Uint8Array } {
  const scale = (depth === 16 ? 0x8000 : 0x80_0000) * (channels.length > 1 ? fromDb(-PAIR_GAIN_DB) : 1)
  const [lowest, highest] = depth === 16 ? [-0x8000, 0x7FFF] : [-0x80_0000, 0x7F_FFFF]
  const dither = ditherFor({ depth, name })
  const words = new Uint8Array((audio.length + ZEROS_AFTER) * 2)
  const lows = new Uint8Array(audio.length + ZEROS_AFTER)
  for (let i = 0; i < audio.length; i++) {
    const value = Math.max(lowest, Math.min(highest, Math.floor(audio[i]! * scale + (dither ? dither() : 0) + 0.5)))
    const word = depth === 16 ? value : value >> 8
    words[2 * i] = word & 0xFF
    words[2 * i + 1] = word >> 8 & 0xFF
    if (depth !== 16) lows[i] = value & 0xFF
  }
  return { words, lows }
}

/** Presets, instruments and their zones. */
class Tables {
  private readonly phdr = new ByteWriter()
  private readonly pbag = new ByteWriter()
  private readonly pgen = new ByteWriter()
  private readonly inst = new ByteWriter()
  private readonly ibag = new ByteWriter()
  private readonly imod = new ByteWriter()
  private readonly igen = new ByteWriter()
  private counts = { pbag: 0, pgen: 0, inst: 0, ibag: 0, imod: 0, igen: 0 }

  preset(kit: Kit, program: number, placed: ReadonlyMap<string, Placed>): void {
    this.phdr.text(kit.name, LONGEST_NAME).u16(program, PERCUSSION_BANK, this.counts.pbag).u32(0, 0, 0)
    for (const pad of kit.pads) {
      if (pad.layers.length === 0) continue
      this.bag('p')
      const { low, high } = pad.range ?? { low: pad.note, high: pad.note }
      this.generators('p', [[G.keyRange, high << 8 | low], [G.instrument, this.counts.inst]])
      this.instrument(pad, placed)
    }
  }

  chunks(): Uint8Array[] {
    const { counts } = this
    const modulator = () => new ByteWriter().u16(0, 0).i16(0).u16(0, 0)
    this.phdr.text('EOP', 20).u16(0, 0, counts.pbag).u32(0, 0, 0)
    this.pbag.u16(counts.pgen, 0)
    this.inst.text('EOI', 20).u16(counts.ibag)
    this.ibag.u16(counts.igen, counts.imod)
    return [
      chunkBytes('phdr', this.phdr.done), chunkBytes('pbag', this.pbag.done), chunkBytes('pmod', modulator().done), chunkBytes('pgen', this.pgen.u16(0, 0).done),
      chunkBytes('inst', this.inst.done), chunkBytes('ibag', this.ibag.done), chunkBytes('imod', this.imod.done, modulator().done), chunkBytes('igen', this.igen.u16(0, 0).done),
    ]
  }

  private instrument(pad: Pad, placed: ReadonlyMap<string, Placed>): void {
    this.inst.text(pad.name || `Note ${pad.note}`, LONGEST_NAME).u16(this.counts.ibag)
    this.counts.inst++
    this.bag('i')
    const { source, destination, amount, amountSource, transform } = VELOCITY_TO_CUTOFF
    this.imod.u16(source, destination).i16(amount).u16(amountSource, transform)
    this.counts.imod++
    this.generators('i', shared(pad, !pad.layers.some(layer => layer.envelope), !pad.layers.some(layer => layer.filter)))
    for (const layer of pad.layers) {
      const { first, isPair } = placed.get(layer.sound.id)!
      for (const side of isPair ? [0, 1] : [0]) {
        this.bag('i')
        this.generators('i', zone(pad, layer, isPair ? side === 0 ? -500 : 500 : Math.round((layer.pan ?? pad.pan) * 500), first + side))
      }
    }
  }

  private bag(table: 'p' | 'i'): void {
    if (table === 'p') {
      this.pbag.u16(this.counts.pgen, 0)
      this.counts.pbag++
      return
    }
    this.ibag.u16(this.counts.igen, this.counts.imod)
    this.counts.ibag++
    if (this.counts.ibag > 0xFFFF || this.counts.igen > 0xFFFF) throw new EmporionError('limit', { what: 'The kits have more zones than one SoundFont bank can count.', kept: 'Nothing was written.', next: 'Write them as several banks.' })
  }

  private generators(table: 'p' | 'i', pairs: readonly (readonly [id: number, value: number])[]): void {
    const out = table === 'p' ? this.pgen : this.igen
    for (const [id, value] of pairs) out.u16(id, value & 0xFFFF)
    if (table === 'p') this.counts.pgen += pairs.length
    else this.counts.igen += pairs.length
  }
}

/** Generators of all layers of a pad; what is as by default is left out, and so is what layers have of their own. */
function shared(pad: Pad, withEnvelope: boolean, withFilter: boolean): [number, number][] {
  const out: [number, number][] = [...withFilter ? filter(pad.filter) : [], ...withEnvelope ? envelope(pad, pad.envelope) : []]
  if (pad.chokeGroup !== null) out.push([G.exclusiveClass, pad.chokeGroup])
  return out
}

function filter(set: Filter | null): [number, number][] {
  return set ? [[G.filterCutoff, hzToAbsoluteCents(set.cutoffHz)]] : []
}

function envelope(pad: Pad, { attackSeconds, holdSeconds, decaySeconds, releaseSeconds }: Envelope): [number, number][] {
  const out: [number, number][] = []
  if (attackSeconds > 0) out.push([G.attackVolEnv, secondsToTimecents(attackSeconds, LOWEST, LONGEST_ATTACK)])
  if (decaySeconds !== null) {
    out.push([G.holdVolEnv, secondsToTimecents(holdSeconds, LOWEST, LONGEST_ATTACK)])
    out.push([G.decayVolEnv, secondsToTimecents(decaySeconds * OF_60_DB, LOWEST, LONGEST_RELEASE)])
    out.push([G.sustainVolEnv, 1000])
  }
  out.push([G.releaseVolEnv, pad.play === 'one-shot' ? LONGEST_RELEASE : secondsToTimecents(releaseSeconds * OF_60_DB, LOWEST, LONGEST_RELEASE - 200)])
  return out
}

/** Generators of one layer, ranges first and the sample last, as the specification asks (8.1.2). */
function zone(pad: Pad, layer: Layer, pan: number, sample: number): [number, number][] {
  const cents = Math.round(pad.tuneCents + layer.tuneCents)
  const coarse = Math.max(-120, Math.min(120, Math.trunc(cents / 100)))
  const cut = layer.endFrame - layer.sound.frames
  const notes = layer.notes ?? pad.range ?? { low: pad.note, high: pad.note, root: pad.note, trackCents: 100 }
  const whole: [number, number][] = [
    [G.keyRange, notes.high << 8 | notes.low],
    [G.velocityRange, layer.highVelocity << 8 | (layer.lowVelocity === 1 ? 0 : layer.lowVelocity)],
    [G.startOffset, layer.startFrame % 32_768],
    [G.startCoarse, Math.trunc(layer.startFrame / 32_768)],
    [G.endOffset, cut % 32_768],
    [G.endCoarse, Math.trunc(cut / 32_768)],
    [G.pan, pan],
    [G.coarseTune, coarse],
    [G.fineTune, cents - coarse * 100],
    ...pad.layers.some(one => one.envelope) ? envelope(pad, layer.envelope ?? pad.envelope) : [],
    ...pad.layers.some(one => one.filter) ? filter(layer.filter ?? pad.filter) : [],
    [G.sampleModes, 0],
    [G.scaleTuning, notes.trackCents === 100 ? 0 : Math.round(notes.trackCents)],
    [G.rootKey, notes.root],
    [G.sampleId, sample],
  ]
  return whole.filter(([id, value]) => value !== 0 || ALWAYS.has(id) || (id === G.scaleTuning && notes.trackCents === 0))
}
