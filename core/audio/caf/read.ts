import { EmporionError } from '../../errors'
import { ByteReader, readable } from '../bytes'
import type { CuePoint, DecodedAudio, EmbeddedData, FileTags } from '../decoded'
import { decodeIma4, IMA4_BYTES, IMA4_FRAMES } from '../ima'
import { checkShape, MOST_CHUNKS, shortness } from '../limits'
import { decodePcm, type PcmLayout } from '../pcm'
import { CONVERT_CODING, CONVERT_FILE } from '../words'

interface Chunk {
  readonly id: string
  readonly offset: number
  /** Bytes of body that can be read. */
  readonly size: number
  /** As its header states it; undefined for one that goes on to the end of the file. */
  readonly statedSize: number | undefined
}

interface Description {
  readonly sampleRate: number
  readonly codec: string
  readonly flags: number
  readonly packetBytes: number
  readonly packetFrames: number
  readonly channelCount: number
  readonly bits: number
}

const FILE_HEADER_BYTES = 8
const CHUNK_HEADER_BYTES = 12
const MOST_TEXTS = 256
const MARKER_BYTES = 28
/** The size of a data chunk that was not known when its header was written: -1. */
const UNKNOWN = 2 ** 64
/** The data chunk begins with a count of edits. */
const EDIT_COUNT_BYTES = 4
/** A packet table begins with its number of packets, and of frames that are valid. */
const PACKET_TABLE_HEADER_BYTES = 24
const IS_FLOAT = 1
const IS_LITTLE_ENDIAN = 2

/**
 * Reads a CAF file: PCM of 8 to 32 bits and float of 32 and 64 bits in either byte order, A-law, mu-law and IMA ADPCM
 * (`ima4`); with its markers, its instrument and its texts. Source: Apple, Core Audio Format Specification 1.0 (2011), from memory; the tests
 * hold it against `sox`.
 *
 * @throws EmporionError `unreadable` (not CAF, no description, no data, no audio), `unsupported` (other coding)
 */
export function readCaf(bytes: Uint8Array): DecodedAudio {
  if (!isCaf(bytes)) throw new EmporionError('unreadable', 'This is not a CAF file: it does not begin with "caff".')
  const reader = new ByteReader(bytes, 'CAF file')
  const chunks = cafChunks(reader)
  const desc = chunks.find(chunk => chunk.id === 'desc')
  const data = chunks.find(chunk => chunk.id === 'data')
  if (!desc || desc.size < 32) throw new EmporionError('unreadable', 'The CAF file has no description chunk, so its samples cannot be understood.')
  if (!data || data.size < EDIT_COUNT_BYTES) throw new EmporionError('unreadable', 'The CAF file has no data chunk: it holds no audio.')
  const described = readDescription(reader, desc)
  const { codec, bitDepth, framesIn, decode } = codingOf(described)
  const table = chunks.find(chunk => chunk.id === 'pakt')
  const counted = table && table.size >= PACKET_TABLE_HEADER_BYTES ? reader.u64(table.offset + 8, false) : 0
  const valid = counted > 0 ? counted : Number.POSITIVE_INFINITY
  const frames = Math.min(framesIn(data.size - EDIT_COUNT_BYTES), valid)
  const stated = Math.min(framesIn((data.statedSize ?? data.size) - EDIT_COUNT_BYTES), valid)
  checkShape({ channelCount: described.channelCount, sampleRate: described.sampleRate, frames })
  return {
    channels: decode(reader, data.offset + EDIT_COUNT_BYTES, frames),
    sampleRate: described.sampleRate,
    frames,
    facts: {
      container: 'CAF',
      codec,
      bitDepth,
      embedded: embeddedFrom(reader, chunks),
      warnings: shortness(frames, stated),
    },
  }
}

/** True when the bytes begin as a CAF file does. */
export function isCaf(bytes: Uint8Array): boolean {
  return bytes.length >= FILE_HEADER_BYTES && new ByteReader(bytes, 'file').fourCC(0) === 'caff'
}

function cafChunks(reader: ByteReader): Chunk[] {
  const chunks: Chunk[] = []
  let offset = FILE_HEADER_BYTES
  while (chunks.length < MOST_CHUNKS && reader.has(offset, CHUNK_HEADER_BYTES)) {
    const body = offset + CHUNK_HEADER_BYTES
    const statedSize = reader.u64(offset + 4, false)
    const size = Math.min(statedSize, reader.length - body)
    chunks.push({ id: reader.fourCC(offset), offset: body, size, statedSize: statedSize === UNKNOWN ? undefined : statedSize })
    offset = body + size
  }
  return chunks
}

function readDescription(reader: ByteReader, { offset }: Chunk): Description {
  return {
    sampleRate: Math.round(reader.f64(offset, false)),
    codec: reader.fourCC(offset + 8),
    flags: reader.u32(offset + 12, false),
    packetBytes: reader.u32(offset + 16, false),
    packetFrames: reader.u32(offset + 20, false),
    channelCount: reader.u32(offset + 24, false),
    bits: reader.u32(offset + 28, false),
  }
}

interface Coding {
  readonly codec: string
  readonly bitDepth: number
  readonly framesIn: (bytes: number) => number
  readonly decode: (reader: ByteReader, at: number, frames: number) => Float32Array[]
}

function codingOf(described: Description): Coding {
  const { channelCount } = described
  if (described.codec === 'ima4' && described.packetFrames === IMA4_FRAMES) {
    const packetBytes = IMA4_BYTES * Math.max(1, channelCount)
    return {
      codec: 'IMA ADPCM',
      bitDepth: 0,
      framesIn: bytes => Math.floor(bytes / packetBytes) * IMA4_FRAMES,
      decode: (reader, at, frames) => decodeIma4(reader, at, channelCount, frames),
    }
  }
  const { layout, codec } = layoutOf(described)
  return {
    codec,
    bitDepth: layout.bytesPerSample * 8,
    framesIn: bytes => Math.floor(bytes / layout.frameBytes),
    decode: (reader, at, frames) => decodePcm(reader.slice(at, frames * layout.frameBytes), channelCount, frames, layout),
  }
}

function layoutOf({ codec, flags, packetBytes, packetFrames, channelCount, bits }: Description): { layout: PcmLayout, codec: string } {
  const isFloat = (flags & IS_FLOAT) !== 0
  const bytesPerSample = codec === 'lpcm' ? Math.ceil(bits / 8) : 1
  const frameBytes = Math.max(1, bytesPerSample * channelCount)
  const make = (encoding: PcmLayout['encoding'], name: string) => ({ layout: { encoding, bytesPerSample, frameBytes, littleEndian: (flags & IS_LITTLE_ENDIAN) !== 0 }, codec: name })
  const isPlain = packetFrames <= 1 && (packetBytes === 0 || packetBytes === frameBytes)
  if (isPlain && codec === 'lpcm' && isFloat && (bytesPerSample === 4 || bytesPerSample === 8)) return make('float', 'float')
  if (isPlain && codec === 'lpcm' && !isFloat && bytesPerSample >= 1 && bytesPerSample <= 4) return make('signed', 'PCM')
  if (isPlain && codec === 'alaw') return make('a-law', 'A-law')
  if (isPlain && codec === 'ulaw') return make('mu-law', 'mu-law')
  if (codec === 'alac' || codec === 'aac ') throw new EmporionError('unsupported', { what: `The CAF file holds ${codec === 'alac' ? 'Apple Lossless' : 'AAC'}, which Emporion does not read.`, next: CONVERT_FILE })
  throw new EmporionError('unsupported', {
    what: `The CAF file is coded as "${readable(codec)}"${codec === 'lpcm' ? ` with ${bits} bits in packets of ${packetBytes} bytes` : ''}, which Emporion does not read.`,
    next: CONVERT_CODING,
  })
}

function embeddedFrom(reader: ByteReader, chunks: readonly Chunk[]): EmbeddedData {
  let found: EmbeddedData = {}
  for (const chunk of chunks) {
    if (chunk.id === 'inst' && chunk.size >= 12) found = { ...found, ...readInstrument(reader, chunk) }
    else if (chunk.id === 'mark' && chunk.size >= 8) found = { ...found, ...readMarkers(reader, chunk) }
    else if (chunk.id === 'info' && chunk.size >= 4) found = { ...found, ...readTexts(reader, chunk) }
  }
  return found
}

function readInstrument(reader: ByteReader, { offset }: Chunk): EmbeddedData {
  const note = reader.f32(offset, false)
  const gainDb = reader.f32(offset + 8, false)
  return {
    ...(note >= 0 && note < 128 ? { rootNote: Math.floor(note), rootCents: (note - Math.floor(note)) * 100 } : {}),
    lowNote: reader.u8(offset + 4) & 0x7F,
    highNote: reader.u8(offset + 5) & 0x7F,
    lowVelocity: reader.u8(offset + 6) & 0x7F,
    highVelocity: reader.u8(offset + 7) & 0x7F,
    ...(Number.isFinite(gainDb) ? { gainDb } : {}),
  }
}

function readMarkers(reader: ByteReader, { offset, size }: Chunk): EmbeddedData {
  const count = Math.min(reader.u32(offset + 4, false), Math.floor((size - 8) / MARKER_BYTES), MOST_CHUNKS)
  const cues = Array.from({ length: count }, (_, i): CuePoint => {
    const at = offset + 8 + i * MARKER_BYTES
    return { id: reader.u32(at + 12, false), frame: Math.round(reader.f64(at + 4, false)) }
  }).filter(({ frame }) => frame >= 0 && Number.isSafeInteger(frame))
  return cues.length > 0 ? { cues } : {}
}

/** Pairs of a key and a text, each with a NUL behind it. */
function readTexts(reader: ByteReader, { offset, size }: Chunk): EmbeddedData {
  const count = Math.min(reader.u32(offset, false), MOST_TEXTS)
  const parts = reader.slice(offset + 4, size - 4)
  const texts = new Map<string, string>()
  let at = 0
  const next = () => {
    const end = parts.indexOf(0, at)
    if (end < 0) return undefined
    const text = new TextDecoder().decode(parts.subarray(at, end)).trim()
    at = end + 1
    return text
  }
  for (let i = 0; i < count; i++) {
    const [key, text] = [next(), next()]
    if (key === undefined || text === undefined) break
    if (key && text) texts.set(key, text)
  }
  return texts.size > 0 ? { tags: tagsFrom(texts) } : {}
}

function tagsFrom(texts: ReadonlyMap<string, string>): FileTags {
  const bpm = Number(texts.get('tempo'))
  const key = texts.get('key signature')
  const others = [...texts].filter(([name]) => name !== 'tempo' && name !== 'key signature').map(([name, text]) => [name === 'comments' ? 'comment' : name, text])
  return { texts: Object.fromEntries(others), ...(bpm >= 20 && bpm <= 400 ? { bpm } : {}), ...(key ? { key } : {}) }
}
