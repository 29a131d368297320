import { EmporionError } from '../../errors'
import { ByteReader } from '../bytes'
import type { DecodedAudio, EmbeddedData } from '../decoded'
import { checkShape, shortness } from '../limits'
import { decodePcm, type PcmLayout } from '../pcm'
import { adpcmFrames, decodeAdpcm, type AdpcmLayout } from './adpcm'
import { embeddedFrom, riffChunks, type Chunk } from './chunks'
import { CONVERT_CODING } from '../words'

const PCM = 1
const FLOAT = 3
const A_LAW = 6
const MU_LAW = 7
const EXTENSIBLE = 0xFFFE
const ADPCM: Readonly<Record<number, AdpcmLayout['codec']>> = { 0x02: 'MS ADPCM', 0x11: 'IMA ADPCM' }

/** Codings that are an MPEG stream of their own within the data chunk. Source: Microsoft's registry of WAVE formats, `mmreg.h` (from memory). */
const MPEG: Readonly<Record<number, string>> = { 0x50: 'MPEG layer 2', 0x55: 'MP3' }

/** Codings that are met in packs and not read, by their names. Source: as above; those of MPEG are read in WAVE alone. */
const UNREAD: Readonly<Record<number, string>> = { ...MPEG, 0x14: 'G.723 ADPCM', 0x31: 'GSM 6.10', 0x40: 'G.721 ADPCM', 0x160: 'Windows Media Audio', 0x161: 'Windows Media Audio', 0x674F: 'Vorbis' }

interface Format {
  readonly tag: number
  readonly channelCount: number
  readonly sampleRate: number
  readonly frameBytes: number
  readonly bits: number
}

/** What the data chunk holds. */
interface Data {
  readonly codec: string
  readonly bitDepth: number
  readonly frames: number
  /** As many as the header speaks of. */
  readonly statedFrames: number
  readonly decode: () => Float32Array[]
}

/**
 * Reads a WAVE file: PCM of 8 to 32 bits, float of 32 and 64 bits, A-law, mu-law, IMA and MS ADPCM, plain or EXTENSIBLE.
 * Sources: IBM/Microsoft Multimedia Programming Interface 1.0 (1991); Microsoft WAVEFORMATEXTENSIBLE;
 * EBU Tech 3306 for RF64 headers, ITU-R BS.2088 for BW64, which are alike.
 *
 * @returns planar audio; a wrong or missing data size is mended and said in `facts.warnings`
 * @throws EmporionError `unreadable` (no such file, no format, no audio), `unsupported` (other codec)
 */
export function readWave(bytes: Uint8Array): DecodedAudio {
  const reader = new ByteReader(bytes, 'WAVE file')
  if (!isWave(bytes)) throw new EmporionError('unreadable', 'This is not a WAVE file: it does not begin with RIFF and WAVE.')
  return readChunks(reader, riffChunks(reader, 12), 'WAVE')
}

/**
 * Reads what the chunks of a WAVE file hold, in whatever way they are laid out.
 *
 * @throws EmporionError `unreadable` (no format, no audio), `unsupported` (other codec)
 */
export function readChunks(reader: ByteReader, chunks: readonly Chunk[], container: 'WAVE' | 'Wave64'): DecodedAudio {
  const { fmt, data, format } = mainChunks(reader, chunks, container)
  const adpcm = format.bits === 4 ? ADPCM[format.tag] : undefined
  const held = adpcm ? adpcmData(reader, adpcmLayout(reader, adpcm, format, fmt), data, chunks.find(chunk => chunk.id === 'fact')) : pcmData(reader, format, data)
  checkShape({ channelCount: format.channelCount, sampleRate: format.sampleRate, frames: held.frames })
  return {
    channels: held.decode(),
    sampleRate: format.sampleRate,
    frames: held.frames,
    facts: {
      container,
      codec: held.codec,
      bitDepth: held.bitDepth,
      embedded: embeddedFrom(reader, chunks),
      warnings: warningsOf(data, held),
    },
  }
}

/**
 * The MPEG stream that a WAVE file has in place of samples, as editors write it to save room.
 *
 * @returns nothing where its samples are coded in another way
 * @throws EmporionError `unreadable` (no such file, no format, no audio)
 */
export function mpegWithin(bytes: Uint8Array): { readonly codec: string, readonly stream: Uint8Array, readonly embedded: EmbeddedData } | undefined {
  const reader = new ByteReader(bytes, 'WAVE file')
  const chunks = riffChunks(reader, 12)
  const { data, format } = mainChunks(reader, chunks, 'WAVE')
  const codec = MPEG[format.tag]
  return codec ? { codec, stream: reader.slice(data.offset, data.size), embedded: embeddedFrom(reader, chunks) } : undefined
}

/** The chunks that no such file can be read without. @throws EmporionError `unreadable` */
function mainChunks(reader: ByteReader, chunks: readonly Chunk[], container: string): { readonly fmt: Chunk, readonly data: Chunk, readonly format: Format } {
  const data = chunks.find(chunk => chunk.id === 'data')
  const fmt = chunks.find(chunk => chunk.id === 'fmt ')
  if (!fmt) throw new EmporionError('unreadable', `The ${container} file has no format chunk, so its samples cannot be understood.`)
  if (!data) throw new EmporionError('unreadable', `The ${container} file has no data chunk: it holds no audio.`)
  return { fmt, data, format: readFormat(reader, fmt) }
}

function pcmData(reader: ByteReader, format: Format, data: Chunk): Data {
  const layout = layoutOf(format)
  const frames = Math.floor((data.size - layout.bytesPerSample * format.channelCount + layout.frameBytes) / layout.frameBytes)
  return {
    codec: codecName(format),
    bitDepth: format.bits,
    frames,
    statedFrames: Math.floor(data.statedSize / layout.frameBytes),
    decode: () => decodePcm(reader.slice(data.offset, data.size), format.channelCount, frames, layout),
  }
}

function adpcmData(reader: ByteReader, layout: AdpcmLayout, data: Chunk, fact: Chunk | undefined): Data {
  // The last block is filled up; the fact chunk says how many frames are meant.
  const meant = fact && fact.size >= 4 ? reader.u32(fact.offset, true) : 0
  const framesIn = (bytes: number) => Math.min(adpcmFrames(bytes, layout), meant || Infinity)
  const frames = framesIn(data.size)
  return {
    codec: layout.codec,
    bitDepth: 0,
    frames,
    statedFrames: framesIn(data.statedSize),
    decode: () => decodeAdpcm(reader.slice(data.offset, data.size), frames, layout),
  }
}

function adpcmLayout(reader: ByteReader, codec: AdpcmLayout['codec'], { channelCount, frameBytes }: Format, fmt: Chunk): AdpcmLayout {
  return { codec, channelCount, blockBytes: Math.max(1, frameBytes), factors: codec === 'MS ADPCM' ? factorsIn(reader, fmt) : [] }
}

/** The pairs of factors that the format chunk of MS ADPCM lists. */
function factorsIn(reader: ByteReader, fmt: Chunk): [number, number][] {
  const count = fmt.size < 22 ? 0 : Math.min(reader.u16(fmt.offset + 20, true), Math.floor((fmt.size - 22) / 4))
  return Array.from({ length: count }, (_, i) => [reader.i16(fmt.offset + 22 + 4 * i, true), reader.i16(fmt.offset + 24 + 4 * i, true)])
}

/** True when the bytes begin as a WAVE file does. */
export function isWave(bytes: Uint8Array): boolean {
  if (bytes.length < 12) return false
  const reader = new ByteReader(bytes, 'file')
  const form = reader.fourCC(0)
  return (form === 'RIFF' || form === 'RF64' || form === 'BW64') && reader.fourCC(8) === 'WAVE'
}

function readFormat(reader: ByteReader, fmt: Chunk): Format {
  if (fmt.size < 14) throw new EmporionError('unreadable', 'The format chunk of the WAVE file is too short.')
  const at = fmt.offset
  let tag = reader.u16(at, true)
  const channelCount = reader.u16(at + 2, true)
  const frameBytes = reader.u16(at + 12, true)
  const statedBits = fmt.size >= 16 ? reader.u16(at + 14, true) : 0
  const bits = statedBits || Math.floor(frameBytes * 8 / Math.max(1, channelCount))
  if (tag === EXTENSIBLE && fmt.size >= 26) tag = reader.u16(at + 24, true)
  return { tag, channelCount, sampleRate: reader.u32(at + 4, true), frameBytes, bits }
}

function layoutOf(format: Format): PcmLayout {
  const bytesPerSample = Math.ceil(format.bits / 8)
  const tight = bytesPerSample * format.channelCount
  return {
    encoding: encodingOf(format, bytesPerSample),
    bytesPerSample,
    frameBytes: Math.max(format.frameBytes, tight, 1),
    littleEndian: true,
  }
}

function encodingOf(format: Format, bytesPerSample: number): PcmLayout['encoding'] {
  if (format.tag === PCM && bytesPerSample >= 1 && bytesPerSample <= 4) return bytesPerSample === 1 ? 'unsigned' : 'signed'
  if (format.tag === FLOAT && (bytesPerSample === 4 || bytesPerSample === 8)) return 'float'
  if (format.tag === A_LAW && bytesPerSample === 1) return 'a-law'
  if (format.tag === MU_LAW && bytesPerSample === 1) return 'mu-law'
  throw new EmporionError('unsupported', {
    what: `Its samples are coded as ${UNREAD[format.tag] ?? `WAVE format ${format.tag}`}${format.bits > 0 ? ` with ${format.bits} bits` : ''}, which Emporion does not read in this container.`,
    next: CONVERT_CODING,
  })
}

function codecName(format: Format): string {
  const names: Record<number, string> = { [PCM]: 'PCM', [FLOAT]: 'float', [A_LAW]: 'A-law', [MU_LAW]: 'mu-law' }
  return names[format.tag] ?? 'PCM'
}

function warningsOf(data: Chunk, { frames, statedFrames }: Data): string[] {
  if (data.statedSize === 0xFFFF_FFFF || frames === statedFrames) return []
  if (data.statedSize === 0) return ['The header says there is no audio; everything after it was read.']
  return shortness(frames, statedFrames)
}
