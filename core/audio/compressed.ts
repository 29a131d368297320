import { FLACDecoder } from '@wasm-audio-decoders/flac'
import { OggVorbisDecoder } from '@wasm-audio-decoders/ogg-vorbis'
import CodecParser from 'codec-parser'
import { MPEGDecoder } from 'mpg123-decoder'
import { OggOpusDecoder } from 'ogg-opus-decoder'
import { EmporionError } from '../errors'
import type { Container, DecodedAudio } from './decoded'
import { checkShape } from './limits'

interface Decoded {
  readonly channelData: Float32Array[]
  readonly samplesDecoded: number
  readonly sampleRate: number
  readonly errors: readonly { readonly message: string }[]
}

interface Decoder {
  readonly ready: Promise<void>
  free(): void
}

/** Decodes FLAC losslessly. @throws EmporionError `unreadable` */
export async function readFlac(bytes: Uint8Array): Promise<DecodedAudio> {
  let depth = 0
  // Making a decoder costs more than decoding a one-shot, so one serves for many files: it is fed with frames, which stand
  // for themselves in FLAC, cut out here.
  const decoder = idleFlac.pop() ?? new FLACDecoder()
  const decoded = await using(decoder, async () => {
    const frames = new CodecParser('audio/flac', { enableFrameCRC32: false }).parseAll(bytes)
    const result = await decoder.decodeFrames(frames.flatMap(frame => 'data' in frame ? [frame.data] : []))
    depth = result.bitDepth
    result.channelData.forEach(channel => toExactScale(channel, depth))
    return result
  })
  // One that met a damaged frame may not be as it was.
  if (idleFlac.length < MOST_IDLE && decoded.errors.length === 0) idleFlac.push(decoder)
  else decoder.free()
  return describe(decoded, { container: 'FLAC', codec: 'FLAC', bitDepth: depth })
}

const MOST_IDLE = 2
const idleFlac: FLACDecoder[] = []

/** Decodes MPEG-1/2 layer 1 to 3. @throws EmporionError `unreadable` */
export async function readMp3(bytes: Uint8Array): Promise<DecodedAudio> {
  const decoded = await withDecoder(new MPEGDecoder({ enableGapless: true }), async decoder => decoder.decode(bytes))
  return describe(decoded, { container: 'MP3', codec: 'MP3', bitDepth: 0 })
}

/** Decodes Ogg with Vorbis or Opus in it. @throws EmporionError `unreadable` */
export async function readOgg(bytes: Uint8Array): Promise<DecodedAudio> {
  if (hasText(bytes.subarray(0, 512), 'OpusHead')) {
    const decoded = await withDecoder(new OggOpusDecoder(), decoder => decoder.decodeFile(bytes))
    return describe(decoded, { container: 'Ogg', codec: 'Opus', bitDepth: 0 })
  }
  const decoded = await withDecoder(new OggVorbisDecoder(), decoder => decoder.decodeFile(bytes))
  return describe(decoded, { container: 'Ogg', codec: 'Vorbis', bitDepth: 0 })
}

/** True when the bytes begin with a FLAC stream. */
export function isFlac(bytes: Uint8Array): boolean {
  return hasText(bytes.subarray(0, 4), 'fLaC')
}

/** True when the bytes begin with an Ogg page. */
export function isOgg(bytes: Uint8Array): boolean {
  return hasText(bytes.subarray(0, 4), 'OggS')
}

/**
 * True when the bytes begin with an ID3 tag or with two MPEG frame headers in a row (one alone is found in
 * any noise). Source: ISO/IEC 11172-3, 2.4.1.3.
 */
export function isMp3(bytes: Uint8Array): boolean {
  if (hasText(bytes.subarray(0, 3), 'ID3')) return bytes.length > 128
  const size = mpegFrameBytes(bytes, 0)
  return size > 0 && mpegFrameBytes(bytes, size) > 0
}

const BITRATES_V1_L3 = [0, 32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320]
const BITRATES_V2_L3 = [0, 8, 16, 24, 32, 40, 48, 56, 64, 80, 96, 112, 128, 144, 160]

/** Bytes of the layer 3 frame at `offset`, or 0 where there is none. */
function mpegFrameBytes(bytes: Uint8Array, offset: number): number {
  if (offset + 4 > bytes.length || bytes[offset] !== 0xFF || (bytes[offset + 1]! & 0xE0) !== 0xE0) return 0
  const version = bytes[offset + 1]! >> 3 & 3
  const layer = bytes[offset + 1]! >> 1 & 3
  const rate = [44100, 48000, 32000][bytes[offset + 2]! >> 2 & 3]
  const bitrate = (version === 3 ? BITRATES_V1_L3 : BITRATES_V2_L3)[bytes[offset + 2]! >> 4]
  if (version === 1 || layer !== 1 || !rate || !bitrate) return 0
  const sampleRate = version === 3 ? rate : version === 2 ? rate / 2 : rate / 4
  return Math.floor((version === 3 ? 144_000 : 72_000) * bitrate / sampleRate) + (bytes[offset + 2]! >> 1 & 1)
}

/** Added and taken away again it leaves whole numbers (IEEE 754: so high there are no others), in a third of the time that `Math.round` takes. */
const TO_WHOLE = 1.5 * 2 ** 52

/** The decoder divides by 2^(bits-1) - 1; integers survive exactly only over 2^(bits-1), as in WAVE. */
function toExactScale(channel: Float32Array, bits: number): void {
  const full = 2 ** (bits - 1)
  const back = 1 / full
  for (let i = 0; i < channel.length; i++) channel[i] = (channel[i]! * (full - 1) + TO_WHOLE - TO_WHOLE) * back
}

async function withDecoder<D extends Decoder>(decoder: D, use: (decoder: D) => Promise<Decoded>): Promise<Decoded> {
  const decoded = await using(decoder, () => use(decoder))
  decoder.free()
  return decoded
}

/** Uses a decoder, which is freed where that fails. */
async function using(decoder: Decoder, use: () => Promise<Decoded>): Promise<Decoded> {
  try {
    await decoder.ready
    return await use()
  }
  catch (thrown) {
    decoder.free()
    // Anything but a plain error comes from within the decoder and says nothing of the file.
    const reason = thrown instanceof Error && thrown.constructor === Error ? `: ${thrown.message}` : ': it is damaged'
    throw new EmporionError('unreadable', `The compressed audio could not be decoded${reason}.`)
  }
}

function describe(decoded: Decoded, facts: { container: Container, codec: string, bitDepth: number }): DecodedAudio {
  const frames = decoded.samplesDecoded
  if (frames < 1 || decoded.channelData.length === 0) {
    const reason = decoded.errors[0]?.message
    throw new EmporionError('unreadable', `No audio could be decoded from this ${facts.codec} file${reason ? ` (${reason})` : ''}.`)
  }
  checkShape({ channelCount: decoded.channelData.length, sampleRate: decoded.sampleRate, frames })
  const errors = decoded.errors.length
  return {
    channels: decoded.channelData.map(channel => channel.length === frames ? channel : channel.slice(0, frames)),
    sampleRate: decoded.sampleRate,
    frames,
    facts: {
      ...facts,
      embedded: {},
      warnings: errors > 0 ? [`${errors} damaged ${errors === 1 ? 'frame was' : 'frames were'} passed over while decoding.`] : [],
    },
  }
}

function hasText(bytes: Uint8Array, text: string): boolean {
  outer: for (let i = 0; i + text.length <= bytes.length; i++) {
    for (let j = 0; j < text.length; j++) {
      if (bytes[i + j] !== text.charCodeAt(j)) continue outer
    }
    return true
  }
  return false
}
