import { EmporionError } from '../errors'
import { isAiff, readAiff } from './aiff/read'
import type { DecodedAudio } from './decoded'
import { isWave, readWave } from './wave/read'

/** Endings of the files that a scan opens. What a file really is, is told by its bytes. */
export const AUDIO_EXTENSIONS: readonly string[] = ['wav', 'wave', 'aif', 'aiff', 'aifc', 'flac', 'mp3', 'ogg', 'oga', 'opus']

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
  if (isWave(bytes)) return readWave(bytes)
  if (isAiff(bytes)) return readAiff(bytes)
  const compressed = await import('./compressed')
  if (compressed.isFlac(bytes)) return compressed.readFlac(bytes)
  if (compressed.isOgg(bytes)) return compressed.readOgg(bytes)
  if (compressed.isMp3(bytes)) return compressed.readMp3(bytes)
  throw new EmporionError('unreadable', 'This is no audio that Emporion knows: its first bytes are not those of WAVE, AIFF, FLAC, Ogg or MP3.')
}
