import { ByteReader } from '../../audio/bytes'
import { readWave } from '../../audio/wave/read'
import { EmporionError } from '../../errors'
import { chunkBytes, chunksOf, chunksOfList, listBytes, openRiff, type ByteSource, type PlacedChunk } from '../riff'
import { readConnections, type Connection } from './articulation'

/** How a wave is played: its root, its gain, its loop. Source: DLS 1.1b, `wsmp`. */
export interface WaveSettings {
  readonly unityNote: number
  readonly fineTuneCents: number
  readonly gainDb: number
  readonly loop?: { readonly startFrame: number, readonly endFrame: number }
}

/** A region with what it inherits from its instrument. */
export interface DlsRegion {
  readonly lowNote: number
  readonly highNote: number
  readonly lowVelocity: number
  readonly highVelocity: number
  readonly keyGroup: number
  readonly settings: WaveSettings | undefined
  readonly connections: readonly Connection[]
  readonly wave: number
  /** 0 for a region of its own; regions of one phase group are the sides of one sound. */
  readonly phaseGroup: number
  /** Bit 0 left or mono, bit 1 right. */
  readonly channel: number
}

export interface DlsInstrument {
  readonly name: string
  readonly bank: number
  readonly program: number
  readonly isDrums: boolean
  readonly regions: readonly DlsRegion[]
}

/** A DLS collection; its waves are read when they are asked for. */
export interface DlsCollection {
  readonly name: string
  /** Drums first. */
  readonly instruments: readonly DlsInstrument[]
  readonly waveCount: number
  readonly readWave: (index: number) => Promise<{ readonly name: string, readonly channels: readonly Float32Array[], readonly sampleRate: number, readonly depth: 8 | 16 | 24 | 'float', readonly settings: WaveSettings | undefined }>
}

/** Source: DLS 1.1b, `insh`. */
export const DRUMS = 0x8000_0000
const GAIN_UNITS = 655_360
const MOST_INSTRUMENTS = 4096
const MOST_REGIONS = 20_000
const LARGEST_CHUNK_BYTES = 256_000_000

/**
 * Opens a collection of downloadable sounds, of level 1 or 2. Source: MMA Downloadable Sounds 1.1b and 2.2.
 *
 * @throws EmporionError `unreadable` when it is none or is damaged beyond use
 */
export async function openDls(source: ByteSource): Promise<DlsCollection> {
  const top = await openRiff(source, 'DLS ', 'DLS collection')
  const budget = { left: 200_000 }
  const inside = (chunk: PlacedChunk) => chunksOf(source, chunk.offset, chunk.offset + chunk.size, budget)
  const waves = await wavesOf(source, top)
  const instruments: DlsInstrument[] = []
  let regions = 0
  for (const ins of (await chunksOfList(source, top, 'lins')).filter(chunk => chunk.type === 'ins ').slice(0, MOST_INSTRUMENTS)) {
    const read = await instrumentOf(source, await inside(ins), inside)
    if (!read) continue
    regions += read.regions.length
    if (regions > MOST_REGIONS) throw new EmporionError('limit', `The DLS collection has more than ${MOST_REGIONS} regions.`)
    instruments.push(read)
  }
  if (instruments.length === 0) throw new EmporionError('unreadable', 'The DLS collection holds no instrument.')
  return {
    name: await nameIn(source, top),
    instruments: instruments.toSorted((a, b) => Number(b.isDrums) - Number(a.isDrums)),
    waveCount: waves.length,
    readWave: async (index) => {
      const wave = waves[index]
      if (!wave) throw new EmporionError('unreadable', `The DLS collection has no wave ${index}.`)
      const parts = await inside(wave)
      const bytes = await Promise.all(parts.filter(part => part.id === 'fmt ' || part.id === 'data').map(async part => chunkBytes(part.id, await readChunk(source, part))))
      const audio = readWave(listBytes('WAVE', bytes, 'RIFF'))
      const { bitDepth, codec } = audio.facts
      return {
        name: await nameIn(source, parts) || `Wave ${index + 1}`, channels: audio.channels, sampleRate: audio.sampleRate,
        depth: codec === 'PCM' && (bitDepth === 8 || bitDepth === 16 || bitDepth === 24) ? bitDepth : 'float',
        settings: await settingsIn(source, parts),
      }
    },
  }
}

/** The waves in the order of the pool table, which is what regions refer to. */
async function wavesOf(source: ByteSource, top: readonly PlacedChunk[]): Promise<(PlacedChunk | undefined)[]> {
  const pool = top.find(chunk => chunk.type === 'wvpl')
  const waves = (await chunksOfList(source, top, 'wvpl')).filter(chunk => chunk.type === 'wave')
  const ptbl = top.find(chunk => chunk.id === 'ptbl')
  if (!pool || !ptbl || ptbl.size < 8) return waves
  const reader = new ByteReader(await readChunk(source, ptbl), 'pool table')
  const from = reader.u32(0, true)
  const count = Math.min(reader.u32(4, true), Math.floor((reader.length - from) / 4))
  // A cue is the offset of the wave's list within the pool; its contents begin 12 bytes on.
  const byOffset = new Map(waves.map(wave => [wave.offset - 12 - pool.offset, wave]))
  return Array.from({ length: Math.max(0, count) }, (_, i) => byOffset.get(reader.u32(from + i * 4, true)))
}

async function instrumentOf(source: ByteSource, parts: readonly PlacedChunk[], inside: (chunk: PlacedChunk) => Promise<PlacedChunk[]>): Promise<DlsInstrument | undefined> {
  const head = parts.find(chunk => chunk.id === 'insh' && chunk.size >= 12)
  const list = parts.find(chunk => chunk.type === 'lrgn')
  if (!head || !list) return undefined
  const reader = new ByteReader(await readChunk(source, head), 'instrument header')
  const own = await connectionsIn(source, parts, inside)
  const regions: DlsRegion[] = []
  for (const region of (await inside(list)).filter(chunk => chunk.type === 'rgn ' || chunk.type === 'rgn2')) {
    const read = await regionOf(source, await inside(region), own, inside)
    if (read) regions.push(read)
  }
  const bank = reader.u32(4, true)
  return { name: await nameIn(source, parts), bank: bank & 0x7FFF_FFFF, program: reader.u32(8, true) & 0x7F, isDrums: (bank & DRUMS) !== 0, regions }
}

async function regionOf(source: ByteSource, parts: readonly PlacedChunk[], inherited: readonly Connection[], inside: (chunk: PlacedChunk) => Promise<PlacedChunk[]>): Promise<DlsRegion | undefined> {
  const [head, link] = [parts.find(chunk => chunk.id === 'rgnh' && chunk.size >= 12), parts.find(chunk => chunk.id === 'wlnk' && chunk.size >= 12)]
  if (!head || !link) return undefined
  const h = new ByteReader(await readChunk(source, head), 'region header')
  const l = new ByteReader(await readChunk(source, link), 'wave link')
  const own = await connectionsIn(source, parts, inside)
  const [lowNote, highNote, lowVelocity, highVelocity] = [0, 2, 4, 6].map(at => Math.min(127, h.u16(at, true))) as [number, number, number, number]
  return {
    lowNote: Math.min(lowNote, highNote), highNote: Math.max(lowNote, highNote), lowVelocity: Math.min(lowVelocity, highVelocity), highVelocity: Math.max(lowVelocity, highVelocity),
    keyGroup: h.u16(10, true),
    settings: await settingsIn(source, parts),
    // What a region states takes the place of its instrument's articulation. Source: DLS 1.1b, 1.11.
    connections: own.length > 0 ? own : inherited,
    phaseGroup: l.u16(2, true), channel: l.u32(4, true), wave: l.u32(8, true),
  }
}

async function connectionsIn(source: ByteSource, parts: readonly PlacedChunk[], inside: (chunk: PlacedChunk) => Promise<PlacedChunk[]>): Promise<Connection[]> {
  const found: Connection[] = []
  for (const list of parts.filter(chunk => chunk.type === 'lart' || chunk.type === 'lar2')) {
    for (const art of (await inside(list)).filter(chunk => chunk.id === 'art1' || chunk.id === 'art2')) found.push(...readConnections(await readChunk(source, art)))
  }
  return found
}

async function settingsIn(source: ByteSource, parts: readonly PlacedChunk[]): Promise<WaveSettings | undefined> {
  const chunk = parts.find(candidate => candidate.id === 'wsmp' && candidate.size >= 20)
  if (!chunk) return undefined
  const reader = new ByteReader(await readChunk(source, chunk), 'wave settings')
  const at = reader.u32(0, true)
  const hasLoop = reader.u32(16, true) > 0 && reader.has(at, 16)
  const start = hasLoop ? reader.u32(at + 8, true) : 0
  return {
    unityNote: Math.min(127, reader.u16(4, true)), fineTuneCents: reader.i16(6, true), gainDb: (reader.u32(8, true) | 0) / GAIN_UNITS,
    ...(hasLoop ? { loop: { startFrame: start, endFrame: start + reader.u32(at + 12, true) } } : {}),
  }
}

async function nameIn(source: ByteSource, parts: readonly PlacedChunk[]): Promise<string> {
  const name = (await chunksOfList(source, parts, 'INFO')).find(chunk => chunk.id === 'INAM')
  return name ? new ByteReader(await source.read(name.offset, Math.min(256, name.size)), 'name').text(0, Math.min(256, name.size)) : ''
}

async function readChunk(source: ByteSource, chunk: PlacedChunk): Promise<Uint8Array> {
  if (chunk.size > LARGEST_CHUNK_BYTES) throw new EmporionError('limit', `A part of the DLS collection has more than ${LARGEST_CHUNK_BYTES / 1e6} MB.`)
  return source.read(chunk.offset, chunk.size)
}
