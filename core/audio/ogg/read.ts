import { OggVorbisDecoder } from '@wasm-audio-decoders/ogg-vorbis'
import { OggOpusDecoder } from 'ogg-opus-decoder'
import { EmporionError } from '../../errors'
import { startsWith } from '../bytes'
import type { DecodedAudio } from '../decoded'
import { audioOf, withDecoder } from '../decoderOutput'
import { isFrameHeader } from '../flac/frames'
import { decodeFlacFrames } from '../flac/read'
import { waveOrder } from './channelOrder'
import { oggPackets } from './packets'
import { CONVERT_FILE } from '../words'

/** What other streams in Ogg begin with, by name. Source: RFC 5334 and Xiph's list of codecs (from memory). */
const UNREAD: Readonly<Record<string, string>> = { 'Speex   ': 'Speex', '\x80theora': 'Theora video', 'fishead\0': 'several streams with a skeleton', 'BBCD\0': 'Dirac video', '\x80kate\0\0\0': 'Kate texts' }

/**
 * Decodes Ogg with Vorbis, Opus or FLAC in it, its channels in the order of WAVE.
 *
 * @throws EmporionError `unreadable`; `unsupported` for other streams, by name
 */
export async function readOgg(bytes: Uint8Array): Promise<DecodedAudio> {
  const packets = oggPackets(bytes)
  const [first] = packets
  if (!first) throw new EmporionError('unreadable', 'This Ogg file holds nothing whole.')
  if (startsWith(first, 'OpusHead')) return inWaveOrder(audioOf(await withDecoder(new OggOpusDecoder(), decoder => decoder.decodeFile(bytes)), { container: 'Ogg', codec: 'Opus', bitDepth: 0 }))
  // A packet of audio is a frame. Source: Ogg FLAC mapping 1.0 (RFC 9639, 10.1).
  if (startsWith(first, '\x7FFLAC')) return decodeFlacFrames({ frames: packets.filter(packet => isFrameHeader(packet, 0)), areExact: false }, 'Ogg')
  if (startsWith(first, '\x01vorbis')) return inWaveOrder(audioOf(await withDecoder(new OggVorbisDecoder(), decoder => decoder.decodeFile(bytes)), { container: 'Ogg', codec: 'Vorbis', bitDepth: 0 }))
  const other = Object.entries(UNREAD).find(([sign]) => startsWith(first, sign))?.[1]
  throw new EmporionError('unsupported', { what: `This Ogg file holds ${other ?? 'a stream of another kind'}; Vorbis, Opus and FLAC are read.`, next: CONVERT_FILE })
}

function inWaveOrder(audio: DecodedAudio): DecodedAudio {
  return { ...audio, channels: waveOrder(audio.channels) }
}
