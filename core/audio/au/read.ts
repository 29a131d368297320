import { EmporionError } from '../../errors'
import { ByteReader } from '../bytes'
import type { DecodedAudio } from '../decoded'
import { checkShape, shortness } from '../limits'
import { decodePcm, type PcmLayout } from '../pcm'
import { CONVERT_CODING } from '../words'

const HEADER_BYTES = 24
/** A size that was not known when the header was written. */
const UNKNOWN = 0xFFFFFFFF

type Encoding = Pick<PcmLayout, 'encoding' | 'bytesPerSample'> & { readonly codec: string }

const ENCODINGS: Readonly<Record<number, Encoding>> = {
  1: { encoding: 'mu-law', bytesPerSample: 1, codec: 'mu-law' },
  2: { encoding: 'signed', bytesPerSample: 1, codec: 'PCM' },
  3: { encoding: 'signed', bytesPerSample: 2, codec: 'PCM' },
  4: { encoding: 'signed', bytesPerSample: 3, codec: 'PCM' },
  5: { encoding: 'signed', bytesPerSample: 4, codec: 'PCM' },
  6: { encoding: 'float', bytesPerSample: 4, codec: 'float' },
  7: { encoding: 'float', bytesPerSample: 8, codec: 'float' },
  27: { encoding: 'a-law', bytesPerSample: 1, codec: 'A-law' },
}

/**
 * Reads an AU file: PCM of 8 to 32 bits, float of 32 and 64 bits, A-law and mu-law, all big-endian.
 * Source: Sun Microsystems, the NeXT/Sun audio file format (`audio.h` of SunOS 4.1), from memory; the tests hold it against `sox`.
 *
 * @throws EmporionError `unreadable` (not AU, no audio), `unsupported` (other encoding)
 */
export function readAu(bytes: Uint8Array): DecodedAudio {
  if (!isAu(bytes)) throw new EmporionError('unreadable', 'This is not an AU file: it does not begin with ".snd".')
  const reader = new ByteReader(bytes, 'AU file')
  const start = Math.max(HEADER_BYTES, reader.u32(4, false))
  const statedSize = reader.u32(8, false)
  const code = reader.u32(12, false)
  const sampleRate = reader.u32(16, false)
  const channelCount = reader.u32(20, false)
  const found = ENCODINGS[code]
  if (!found) throw new EmporionError('unsupported', { what: `The AU file is coded in way ${code} of its format, which Emporion does not read.`, next: CONVERT_CODING })
  const { codec, encoding, bytesPerSample } = found
  const frameBytes = Math.max(1, bytesPerSample * channelCount)
  const present = Math.floor(Math.max(0, reader.length - start) / frameBytes)
  const stated = statedSize === UNKNOWN ? present : Math.floor(statedSize / frameBytes)
  const frames = Math.min(present, stated)
  checkShape({ channelCount, sampleRate, frames })
  const annotation = start > HEADER_BYTES ? reader.text(HEADER_BYTES, Math.min(start, reader.length) - HEADER_BYTES) : ''
  return {
    channels: decodePcm(reader.slice(start, frames * frameBytes), channelCount, frames, { encoding, bytesPerSample, frameBytes, littleEndian: false }),
    sampleRate,
    frames,
    facts: {
      container: 'AU',
      codec,
      bitDepth: bytesPerSample * 8,
      embedded: annotation ? { info: { ANNO: annotation } } : {},
      warnings: shortness(frames, stated),
    },
  }
}

/** True when the bytes begin as an AU file does. */
export function isAu(bytes: Uint8Array): boolean {
  return bytes.length >= HEADER_BYTES && new ByteReader(bytes, 'file').fourCC(0) === '.snd'
}
