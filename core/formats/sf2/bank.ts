import { ByteReader } from '../../audio/bytes'
import { decodeAudio } from '../../audio/decode'
import { EmporionError } from '../../errors'
import { chunksOfList, openRiff, type ByteSource, type PlacedChunk } from '../riff'
import { DEFAULTS, GENERATOR, INSTRUMENT_ONLY, USUAL_MODULATIONS } from './generators'

/** A sample of a bank, by its place in the samples chunk, in frames; of a packed one in bytes, with its loop counted from its start. Source: SoundFont 2.04, 7.10. */
export interface BankSample {
  readonly name: string
  readonly start: number
  readonly end: number
  readonly startLoop: number
  readonly endLoop: number
  readonly sampleRate: number
  readonly originalPitch: number
  readonly pitchCorrection: number
  readonly link: number
  /** 1 mono, 2 right, 4 left, 8 linked; with 0x8000 in the ROM of a device. */
  readonly type: number
  /** Ogg Vorbis. Source: SoundFont 3 as its writers have it (common practice). */
  readonly isPacked: boolean
}

/** One zone that sounds: an instrument's with what the preset adds. */
export interface BankZone {
  readonly instrument: string
  readonly keys: { readonly low: number, readonly high: number }
  readonly velocities: { readonly low: number, readonly high: number }
  readonly sample: number
  /** Modulators of its instrument and preset that do something out of the usual. */
  readonly modulators: number
  /** The value of a generator, with its default. */
  readonly value: (generator: number) => number
}

export interface BankPreset {
  readonly name: string
  readonly program: number
  readonly bank: number
}

/** A SoundFont bank whose samples are still in their file. */
export interface Bank {
  readonly name: string
  readonly version: string
  /** Percussion first, then by bank and program. */
  readonly presets: readonly BankPreset[]
  readonly samples: readonly BankSample[]
  readonly zonesOf: (preset: BankPreset) => BankZone[]
  /** Reads the frames of a sample. @throws EmporionError for a packed one that is damaged */
  readonly readSample: (sample: BankSample) => Promise<Float32Array>
  /** Bits that keep its samples exact. */
  readonly depth: 16 | 24 | 'float'
}

/** The percussion bank. Source: SoundFont 2.04, 7.2. */
export const PERCUSSION_BANK = 128

const LARGEST_TABLE_BYTES = 64_000_000
const RECORD_BYTES = { phdr: 38, pbag: 4, pmod: 10, pgen: 4, inst: 22, ibag: 4, imod: 10, igen: 4, shdr: 46 } as const
type Table = keyof typeof RECORD_BYTES
const MOST_ZONES = 20_000
/** Set in the type of a packed sample. */
const PACKED = 0x10

/**
 * Opens a SoundFont bank: its tables are read, its samples are not.
 * Source: SoundFont 2.04 technical specification, 4 to 8.
 *
 * @throws EmporionError `unreadable` when it is none or its tables are damaged
 */
export async function openBank(source: ByteSource): Promise<Bank> {
  const top = await openRiff(source, 'sfbk', 'SoundFont bank')
  const info = await chunksOfList(source, top, 'INFO')
  const data = await chunksOfList(source, top, 'sdta')
  const tables = await chunksOfList(source, top, 'pdta')
  const smpl = data.find(chunk => chunk.id === 'smpl')
  if (!smpl) throw new EmporionError('unreadable', 'The SoundFont bank holds no samples.')
  const sm24 = data.find(chunk => chunk.id === 'sm24')
  const depth = sm24 && sm24.size >= Math.floor(smpl.size / 2) ? 24 : 16
  const version = await versionOf(source, info)
  const isPacked = version.startsWith('3.')
  const read = async (id: Table) => readTable(source, tables, id)
  const [phdr, pbag, pmod, pgen, inst, ibag, imod, igen, shdr] = [await read('phdr'), await read('pbag'), await read('pmod'), await read('pgen'), await read('inst'), await read('ibag'), await read('imod'), await read('igen'), await read('shdr')]
  const samples = samplesOf(shdr, smpl, isPacked)
  const instruments = zonesInTable(inst, 20, { bags: ibag, generators: igen, modulators: imod }, 'instrument')
  const inPresets = zonesInTable(phdr, 24, { bags: pbag, generators: pgen, modulators: pmod }, 'preset')
  const presets = phdr.all.slice(0, -1).map((at, index) => ({ index, name: phdr.reader.text(at, 20), program: phdr.reader.u16(at + 20, true), bank: phdr.reader.u16(at + 22, true) }))
  const sorted = presets.toSorted((a, b) => Number(b.bank === PERCUSSION_BANK) - Number(a.bank === PERCUSSION_BANK) || a.bank - b.bank || a.program - b.program)
  const places = new Map<BankPreset, number>(sorted.map(preset => [preset, preset.index]))
  const nameOf = (instrument: number) => inst.reader.text(inst.all[instrument]!, 20)
  return {
    name: await textOf(source, info, 'INAM'),
    version,
    presets: sorted,
    samples,
    depth: isPacked ? 'float' : depth,
    zonesOf: preset => joined(inPresets[places.get(preset) ?? -1] ?? [], instruments, nameOf, samples.length),
    readSample: async ({ start, end, isPacked: packed }) => {
      if (packed) return unpacked(await source.read(smpl.offset + start, end - start))
      const count = end - start
      const high = await source.read(smpl.offset + start * 2, count * 2)
      const low = depth === 24 ? await source.read(sm24!.offset + start, count) : undefined
      const out = new Float32Array(count)
      for (let i = 0; i < count; i++) out[i] = low ? (high[2 * i + 1]! << 24 >> 8 | high[2 * i]! << 8 | low[i]!) / 0x80_0000 : (high[2 * i + 1]! << 24 >> 16 | high[2 * i]!) / 0x8000
      return out
    },
  }
}

async function unpacked(bytes: Uint8Array): Promise<Float32Array> {
  const { channels } = await decodeAudio(bytes)
  return channels[0]!
}

/** How many of some modulators do something out of the usual. */
function working({ reader, all }: Records, from: number, to: number): number {
  return all.slice(from, Math.min(to, all.length - 1)).filter(at => reader.i16(at + 4, true) !== 0 && !USUAL_MODULATIONS.has(reader.u16(at + 2, true))).length
}

interface Records {
  readonly reader: ByteReader
  /** Offset of each record. */
  readonly all: readonly number[]
}

async function readTable(source: ByteSource, tables: readonly PlacedChunk[], id: Table): Promise<Records> {
  const chunk = tables.find(candidate => candidate.id === id)
  if (!chunk) throw new EmporionError('unreadable', `The SoundFont bank has no ${id} chunk, so its presets cannot be known.`)
  if (chunk.size > LARGEST_TABLE_BYTES) throw new EmporionError('limit', `The ${id} chunk of the SoundFont bank has more than ${LARGEST_TABLE_BYTES / 1e6} MB.`)
  const bytes = RECORD_BYTES[id]
  const count = Math.floor(chunk.size / bytes)
  if (count < 1) throw new EmporionError('unreadable', `The ${id} chunk of the SoundFont bank lacks its last record.`)
  return { reader: new ByteReader(await source.read(chunk.offset, chunk.size), `${id} chunk`), all: Array.from({ length: count }, (_, i) => i * bytes) }
}

function samplesOf({ reader, all }: Records, smpl: PlacedChunk, isPackedBank: boolean): BankSample[] {
  const most = isPackedBank ? smpl.size : Math.floor(smpl.size / 2)
  return all.slice(0, -1).map((at) => {
    const [start, end, startLoop, endLoop] = [20, 24, 28, 32].map(offset => Math.min(most, reader.u32(at + offset, true))) as [number, number, number, number]
    const type = reader.u16(at + 44, true)
    return {
      name: reader.text(at, 20), start, end: Math.max(start, end), startLoop, endLoop,
      sampleRate: reader.u32(at + 36, true), originalPitch: reader.u8(at + 40), pitchCorrection: reader.i8(at + 41), link: reader.u16(at + 42, true), type: type & ~PACKED, isPacked: isPackedBank && (type & PACKED) !== 0,
    }
  })
}

/** Generators of one zone, in their order; ranges have their low value in the low byte. */
type Generators = ReadonlyMap<number, number>

/** One zone of an instrument or a preset. */
interface Part {
  readonly generators: Generators
  readonly modulators: number
}

/** The tables that describe the zones of instruments, or of presets. */
interface ZoneTables {
  readonly bags: Records
  readonly generators: Records
  readonly modulators: Records
}

/** For each instrument or preset its zones, the global zone's generators put under those of the others. */
function zonesInTable(heads: Records, bagAt: number, { bags, generators, modulators }: ZoneTables, kind: 'instrument' | 'preset'): Part[][] {
  const last = kind === 'instrument' ? GENERATOR.sampleId : GENERATOR.instrument
  let budget = MOST_ZONES * 8
  return heads.all.slice(0, -1).map((at, i) => {
    const [from, to] = [heads.reader.u16(at + bagAt, true), heads.reader.u16(heads.all[i + 1]! + bagAt, true)]
    const zones: Part[] = []
    let shared: Part = { generators: new Map(), modulators: 0 }
    for (let bag = from; bag < to && bag + 1 < bags.all.length; bag++) {
      if (--budget < 0) throw new EmporionError('limit', 'The SoundFont bank has more zones than any bank can need.')
      const own = generatorsOf(bags, bag, generators, last)
      const moved = working(modulators, bags.reader.u16(bags.all[bag]! + 2, true), bags.reader.u16(bags.all[bag + 1]! + 2, true))
      if (own.has(last)) zones.push({ generators: new Map([...shared.generators, ...own]), modulators: shared.modulators + moved })
      // Only the first zone may be the one for all. Source: SoundFont 2.04, 7.3.
      else if (bag === from) shared = { generators: own, modulators: moved }
    }
    return zones
  })
}

function generatorsOf(bags: Records, bag: number, generators: Records, last: number): Generators {
  const [from, to] = [bags.reader.u16(bags.all[bag]!, true), bags.reader.u16(bags.all[bag + 1]!, true)]
  const own = new Map<number, number>()
  for (let i = from; i < to && i < generators.all.length; i++) {
    const at = generators.all[i]!
    const id = generators.reader.u16(at, true)
    const isRange = id === GENERATOR.keyRange || id === GENERATOR.velocityRange || id === last
    own.set(id, isRange ? generators.reader.u16(at + 2, true) : generators.reader.i16(at + 2, true))
    if (id === last) break
  }
  return own
}

function joined(presetZones: readonly Part[], instruments: readonly (readonly Part[])[], nameOf: (instrument: number) => string, samples: number): BankZone[] {
  const zones: BankZone[] = []
  for (const { generators: preset, modulators: ofPreset } of presetZones) {
    const instrument = preset.get(GENERATOR.instrument)!
    for (const { generators: own, modulators } of instruments[instrument] ?? []) {
      const keys = both(preset.get(GENERATOR.keyRange), own.get(GENERATOR.keyRange))
      const velocities = both(preset.get(GENERATOR.velocityRange), own.get(GENERATOR.velocityRange))
      const sample = own.get(GENERATOR.sampleId)!
      if (keys.low > keys.high || velocities.low > velocities.high || sample >= samples) continue
      if (zones.length >= MOST_ZONES) throw new EmporionError('limit', `The preset has more than ${MOST_ZONES} zones.`)
      zones.push({
        instrument: nameOf(instrument), keys, velocities, sample, modulators: modulators + ofPreset,
        // What a preset says is added. Source: SoundFont 2.04, 9.4.
        value: id => (own.get(id) ?? DEFAULTS[id] ?? 0) + (INSTRUMENT_ONLY.has(id) ? 0 : preset.get(id) ?? 0),
      })
    }
  }
  return zones
}

/** What two ranges have in common; a range that is not there is the whole. */
function both(one: number | undefined, other: number | undefined): { low: number, high: number } {
  const [a, b] = [one, other].map(range => range === undefined ? { low: 0, high: 127 } : { low: range & 0x7F, high: range >> 8 & 0x7F }) as [{ low: number, high: number }, { low: number, high: number }]
  return { low: Math.max(a.low, b.low), high: Math.min(a.high, b.high) }
}

async function versionOf(source: ByteSource, info: readonly PlacedChunk[]): Promise<string> {
  const ifil = info.find(chunk => chunk.id === 'ifil' && chunk.size >= 4)
  if (!ifil) return '2.01'
  const reader = new ByteReader(await source.read(ifil.offset, 4), 'ifil chunk')
  return `${reader.u16(0, true)}.${String(reader.u16(2, true)).padStart(2, '0')}`
}

async function textOf(source: ByteSource, info: readonly PlacedChunk[], id: string): Promise<string> {
  const chunk = info.find(candidate => candidate.id === id)
  return chunk ? new ByteReader(await source.read(chunk.offset, Math.min(chunk.size, 256)), 'text').text(0, Math.min(chunk.size, 256)) : ''
}
