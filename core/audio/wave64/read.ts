import { EmporionError } from '../../errors'
import { ByteReader } from '../bytes'
import type { DecodedAudio } from '../decoded'
import { MOST_CHUNKS } from '../limits'
import type { Chunk } from '../wave/chunks'
import { readChunks } from '../wave/read'

/** What follows the four letters of a chunk in its name of 16 bytes. */
const NAME_TAIL = [0xF3, 0xAC, 0xD3, 0x11, 0x8C, 0xD1, 0x00, 0xC0, 0x4F, 0x8E, 0xDB, 0x8A]
/** The same for the first name of a file, `riff`. */
const RIFF_TAIL = [0x2E, 0x91, 0xCF, 0x11, 0xA5, 0xD6, 0x28, 0xDB, 0x04, 0xC1, 0x00, 0x00]
const NAME_BYTES = 16
/** A name and a size of 64 bits, which counts both. */
const CHUNK_HEADER_BYTES = 24
/** The name of the file, its size, and the name `wave`. */
const FILE_HEADER_BYTES = 40
const ALIGNMENT_BYTES = 8

/**
 * Reads a Wave64 file: a WAVE whose chunks have names of 16 bytes and sizes of 64 bits, for lengths past 4 GB.
 * Source: Sonic Foundry, Wave64 file format (2003), from memory; the tests hold it against `sox`.
 *
 * @throws EmporionError as `readWave` does
 */
export function readWave64(bytes: Uint8Array): DecodedAudio {
  if (!isWave64(bytes)) throw new EmporionError('unreadable', 'This is not a Wave64 file: it does not begin with its names "riff" and "wave".')
  const reader = new ByteReader(bytes, 'Wave64 file')
  return readChunks(reader, wave64Chunks(reader), 'Wave64')
}

/** True when the bytes begin as a Wave64 file does. */
export function isWave64(bytes: Uint8Array): boolean {
  if (bytes.length < FILE_HEADER_BYTES) return false
  const reader = new ByteReader(bytes, 'file')
  return isNamed(reader, 0, 'riff', RIFF_TAIL) && isNamed(reader, CHUNK_HEADER_BYTES, 'wave', NAME_TAIL)
}

function wave64Chunks(reader: ByteReader): Chunk[] {
  const chunks: Chunk[] = []
  let offset = FILE_HEADER_BYTES
  while (chunks.length < MOST_CHUNKS && reader.has(offset, CHUNK_HEADER_BYTES)) {
    const id = reader.fourCC(offset)
    const body = offset + CHUNK_HEADER_BYTES
    const statedSize = Math.max(0, reader.u64(offset + NAME_BYTES, true) - CHUNK_HEADER_BYTES)
    const size = Math.min(statedSize, reader.length - body)
    if (isNamed(reader, offset, id, NAME_TAIL)) chunks.push({ id, offset: body, size, statedSize })
    offset = body + Math.ceil(size / ALIGNMENT_BYTES) * ALIGNMENT_BYTES
  }
  return chunks
}

function isNamed(reader: ByteReader, offset: number, letters: string, tail: readonly number[]): boolean {
  return reader.fourCC(offset) === letters && tail.every((byte, i) => reader.u8(offset + letters.length + i) === byte)
}
