import { EmporionError } from '../../errors'
import { ByteReader, readable } from '../bytes'
import type { CuePoint, DecodedAudio, EmbeddedData, StatedLoop } from '../decoded'
import { decodeIma4, IMA4_BYTES, IMA4_FRAMES } from '../ima'
import { checkShape, MOST_CHUNKS, shortness } from '../limits'
import { decodePcm, type PcmLayout } from '../pcm'
import { CONVERT_CODING } from '../words'

interface Chunk {
  readonly id: string
  readonly offset: number
  readonly size: number
}

interface Common {
  readonly channelCount: number
  readonly frames: number
  readonly bits: number
  readonly sampleRate: number
  readonly compression: string
}

/** Chunk of AIFF with an ID3 tag in it. */
export const AIFF_TAG_CHUNK = 'ID3 '
const TEXT_CHUNKS = new Set(['NAME', 'AUTH', 'ANNO', '(c) '])

/**
 * Reads AIFF and AIFF-C: big- and little-endian PCM, 32- and 64-bit float, A-law, mu-law and IMA ADPCM (`ima4`).
 * Sources: Apple, Audio Interchange File Format 1.3 (1989); AIFF-C draft (1991).
 *
 * @throws EmporionError `unreadable` (not AIFF, no COMM or SSND, no audio), `unsupported` (other compression)
 */
export function readAiff(bytes: Uint8Array): DecodedAudio {
  if (!isAiff(bytes)) throw new EmporionError('unreadable', 'This is not an AIFF file: it does not begin with FORM and AIFF.')
  const reader = new ByteReader(bytes, 'AIFF file')
  const chunks = iffChunks(reader)
  const common = readCommon(reader, chunks)
  const sound = chunks.find(chunk => chunk.id === 'SSND')
  if (!sound || sound.size < 8) throw new EmporionError('unreadable', 'The AIFF file has no sound chunk: it holds no audio.')
  const skip = reader.u32(sound.offset, false)
  const start = Math.min(sound.offset + 8 + skip, sound.offset + sound.size)
  const data = reader.slice(start, sound.offset + sound.size - start)
  const { frames, stated, codec, bitDepth, decode } = codingOf(common, data, reader.u32(sound.offset - 4, false))
  checkShape({ channelCount: common.channelCount, sampleRate: common.sampleRate, frames })
  return {
    channels: decode(),
    sampleRate: common.sampleRate,
    frames,
    facts: {
      container: 'AIFF',
      codec,
      bitDepth,
      embedded: embeddedFrom(reader, chunks),
      warnings: shortness(frames, stated),
    },
  }
}

/** True when the bytes begin as an AIFF or AIFF-C file does. */
export function isAiff(bytes: Uint8Array): boolean {
  if (bytes.length < 12) return false
  const reader = new ByteReader(bytes, 'file')
  const type = reader.fourCC(8)
  return reader.fourCC(0) === 'FORM' && (type === 'AIFF' || type === 'AIFC')
}

/** The chunks of an IFF file as they lie one after the other. */
export function iffChunks(reader: ByteReader): Chunk[] {
  const chunks: Chunk[] = []
  let offset = 12
  while (chunks.length < MOST_CHUNKS && reader.has(offset, 8)) {
    const body = offset + 8
    const size = Math.min(reader.u32(offset + 4, false), reader.length - body)
    chunks.push({ id: reader.fourCC(offset), offset: body, size })
    offset = body + size + size % 2
  }
  return chunks
}

function readCommon(reader: ByteReader, chunks: readonly Chunk[]): Common {
  const chunk = chunks.find(candidate => candidate.id === 'COMM')
  if (!chunk || chunk.size < 18) throw new EmporionError('unreadable', 'The AIFF file has no common chunk, so its samples cannot be understood.')
  const at = chunk.offset
  return {
    channelCount: reader.u16(at, false),
    frames: reader.u32(at + 2, false),
    bits: reader.u16(at + 6, false),
    sampleRate: readExtended(reader, at + 8),
    compression: chunk.size >= 22 ? reader.fourCC(at + 18) : 'NONE',
  }
}

/** An 80-bit extended number (IEEE 754 with explicit integer bit), as AIFF states its rate. */
function readExtended(reader: ByteReader, at: number): number {
  const head = reader.u16(at, false)
  const mantissa = reader.u32(at + 2, false) * 2 ** 32 + reader.u32(at + 6, false)
  const value = mantissa * 2 ** ((head & 0x7FFF) - 16383 - 63)
  return Math.round(head & 0x8000 ? -value : value)
}

interface Coding {
  readonly frames: number
  readonly stated: number
  readonly codec: string
  readonly bitDepth: number
  readonly decode: () => Float32Array[]
}

function codingOf(common: Common, data: Uint8Array, statedBytes: number): Coding {
  const { channelCount } = common
  if (common.compression.toLowerCase() === 'ima4') {
    const packetBytes = IMA4_BYTES * Math.max(1, channelCount)
    const present = Math.floor(data.length / packetBytes) * IMA4_FRAMES
    // Some writers count packets here, and some frames.
    const stated = common.frames * packetBytes <= statedBytes ? common.frames * IMA4_FRAMES : common.frames
    const frames = stated > 0 ? Math.min(stated, present) : present
    return { frames, stated, codec: 'IMA ADPCM', bitDepth: 0, decode: () => decodeIma4(new ByteReader(data, 'AIFF file'), 0, channelCount, frames) }
  }
  const { layout, codec } = layoutOf(common)
  const present = Math.floor(data.length / layout.frameBytes)
  const frames = common.frames > 0 ? Math.min(common.frames, present) : present
  return { frames, stated: common.frames, codec, bitDepth: common.bits, decode: () => decodePcm(data, channelCount, frames, layout) }
}

function layoutOf(common: Common): { layout: PcmLayout, codec: string } {
  const bytesPerSample = Math.ceil(common.bits / 8)
  const make = (encoding: PcmLayout['encoding'], bytes: number, littleEndian: boolean, codec: string) =>
    ({ layout: { encoding, bytesPerSample: bytes, frameBytes: Math.max(1, bytes * common.channelCount), littleEndian }, codec })
  switch (common.compression) {
    case 'NONE':
    case 'twos':
    case 'in24':
    case 'in32':
      if (bytesPerSample >= 1 && bytesPerSample <= 4) return make('signed', bytesPerSample, false, 'PCM')
      break
    case 'sowt':
      if (bytesPerSample >= 1 && bytesPerSample <= 4) return make('signed', bytesPerSample, true, 'PCM')
      break
    case 'raw ':
      if (bytesPerSample === 1) return make('unsigned', 1, false, 'PCM')
      break
    case 'fl32':
    case 'FL32':
      return make('float', 4, false, 'float')
    case 'fl64':
    case 'FL64':
      return make('float', 8, false, 'float')
    case 'alaw':
    case 'ALAW':
      return make('a-law', 1, false, 'A-law')
    case 'ulaw':
    case 'ULAW':
      return make('mu-law', 1, false, 'mu-law')
  }
  throw new EmporionError('unsupported', {
    what: `The AIFF file is coded as "${readable(common.compression)}" with ${common.bits} bits, which Emporion does not read.`,
    next: CONVERT_CODING,
  })
}

function embeddedFrom(reader: ByteReader, chunks: readonly Chunk[]): EmbeddedData {
  const info: Record<string, string> = {}
  let found: EmbeddedData = {}
  const markers = readMarkers(reader, chunks.find(chunk => chunk.id === 'MARK'))
  for (const chunk of chunks) {
    if (TEXT_CHUNKS.has(chunk.id)) {
      const text = reader.text(chunk.offset, chunk.size)
      if (text) info[chunk.id.trim()] = text
    }
    else if (chunk.id === 'INST' && chunk.size >= 20) {
      found = { ...found, ...readInstrument(reader, chunk, markers) }
    }
  }
  return {
    ...found,
    ...(markers.length > 0 ? { cues: markers } : {}),
    ...(Object.keys(info).length > 0 ? { info } : {}),
  }
}

function readMarkers(reader: ByteReader, chunk: Chunk | undefined): CuePoint[] {
  if (!chunk || chunk.size < 2) return []
  const markers: CuePoint[] = []
  const count = reader.u16(chunk.offset, false)
  const end = chunk.offset + chunk.size
  let at = chunk.offset + 2
  while (markers.length < count && at + 7 <= end) {
    const nameLength = reader.u8(at + 6)
    if (at + 7 + nameLength > end) break
    const label = reader.text(at + 7, nameLength)
    markers.push({ id: reader.u16(at, false), frame: reader.u32(at + 2, false), ...(label ? { label } : {}) })
    at += 7 + nameLength + (nameLength + 1) % 2
  }
  return markers
}

function readInstrument(reader: ByteReader, chunk: Chunk, markers: readonly CuePoint[]): EmbeddedData {
  const at = chunk.offset
  const loops: StatedLoop[] = []
  if (reader.u16(at + 8, false) !== 0) {
    const begin = markers.find(marker => marker.id === reader.u16(at + 10, false))
    const end = markers.find(marker => marker.id === reader.u16(at + 12, false))
    if (begin && end && end.frame > begin.frame) loops.push({ startFrame: begin.frame, endFrame: end.frame - 1, count: 0 })
  }
  return {
    rootNote: reader.u8(at) & 0x7F,
    rootCents: reader.i8(at + 1),
    lowNote: reader.u8(at + 2) & 0x7F,
    highNote: reader.u8(at + 3) & 0x7F,
    lowVelocity: reader.u8(at + 4) & 0x7F,
    highVelocity: reader.u8(at + 5) & 0x7F,
    gainDb: reader.i16(at + 6, false),
    ...(loops.length > 0 ? { loops } : {}),
  }
}
