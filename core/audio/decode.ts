import { EmporionError } from '../errors'
import { startsWith } from './bytes'
import { isAiff, readAiff } from './aiff/read'
import { isAu, readAu } from './au/read'
import { isCaf, readCaf } from './caf/read'
import { behindTag } from './id3'
import type { DecodedAudio } from './decoded'
import { isWave, mpegWithin, readWave } from './wave/read'
import { isWave64, readWave64 } from './wave64/read'
import { CONVERT_FILE } from './words'

/** Raised when files are read that were not before: those that could not be read are tried again then. */
export const READERS_VERSION = 5

/** Largest file that is decoded whole, in bytes. */
export const LARGEST_FILE_BYTES = 256_000_000

/**
 * Decodes a file of any container that Emporion reads, told by its first bytes and not by its name.
 *
 * @throws EmporionError `unreadable`, `unsupported`, or `limit` when the file is over `LARGEST_FILE_BYTES`
 */
export async function decodeAudio(bytes: Uint8Array): Promise<DecodedAudio> {
  if (bytes.length === 0) throw new EmporionError('unreadable', 'The file is empty.')
  if (bytes.length > LARGEST_FILE_BYTES) {
    throw new EmporionError('limit', `The file has ${(bytes.length / 1e6).toFixed(0)} MB; up to ${LARGEST_FILE_BYTES / 1e6} MB are read.`)
  }
  const untagged = behindTag(bytes)
  if (isWave(untagged)) return await carriedMpeg(untagged) ?? readWave(untagged)
  if (isAiff(untagged)) return readAiff(untagged)
  if (isCaf(untagged)) return readCaf(untagged)
  if (isAu(untagged)) return readAu(untagged)
  if (isWave64(untagged)) return readWave64(untagged)
  const compressed = await import('./compressed')
  if (compressed.isFlac(untagged)) return compressed.readFlac(untagged)
  if (compressed.isOgg(untagged)) return compressed.readOgg(untagged)
  if (compressed.isWavpack(untagged)) return compressed.readWavpack(untagged)
  if (compressed.isMpeg(bytes)) return compressed.readMpeg(bytes)
  if (isMpeg4(untagged)) throw new EmporionError('unsupported', { what: 'This is an MPEG-4 file (AAC or Apple Lossless), which Emporion does not read.', next: CONVERT_FILE })
  throw new EmporionError('unreadable', 'This is no audio that Emporion knows: its first bytes are not those of WAVE, Wave64, AIFF, CAF, AU, FLAC, WavPack, Ogg or MPEG audio.')
}

/** MPEG-4 files begin with a box of this type (ISO/IEC 14496-12, 4.3). */
function isMpeg4(bytes: Uint8Array): boolean {
  return startsWith(bytes.subarray(4, 8), 'ftyp')
}

async function carriedMpeg(wave: Uint8Array): Promise<DecodedAudio | undefined> {
  const within = mpegWithin(wave)
  if (!within) return undefined
  const { readMpeg } = await import('./compressed')
  const audio = await readMpeg(within.stream)
  return { ...audio, facts: { ...audio.facts, container: 'WAVE', codec: within.codec, embedded: within.embedded } }
}
