import { EmporionError } from '../../errors'
import { ByteReader } from '../bytes'
import { CONVERT_FILE } from '../words'

/** What the headers of a WavPack stream say of it. */
export interface WavpackBlocks {
  /** Where each block begins that is there whole, with those of its frames that follow it; last, where they end. */
  readonly bounds: readonly number[]
  readonly frames: number
  /** As the first header states them; undefined where it does not know. */
  readonly statedFrames: number | undefined
  readonly bytesPerSample: number
  /** Bits of a sample that are used, in the upper end of its bytes. */
  readonly bits: number
  readonly isFloat: boolean
  readonly isLossless: boolean
}

const HEADER_BYTES = 32
const LEAST_VERSION = 0x402
const MOST_VERSION = 0x410
const UNKNOWN_FRAMES = 0xFFFF_FFFF
const IS_HYBRID = 0x8
const IS_FLOAT = 0x80
/** The first of the blocks that hold the channels of the same frames. */
const IS_FIRST_OF_FRAMES = 0x800
const IS_DSD = 0x8000_0000

/**
 * Walks the headers of the blocks of a WavPack stream.
 * Source: WavPack 4 & 5 Binary File / Block Format (2020), "Block Header", from memory; the tests hold it against `wavpack`.
 *
 * @throws EmporionError `unreadable` (no whole block), `unsupported` (another version, DSD)
 */
export function wavpackBlocks(bytes: Uint8Array): WavpackBlocks {
  const reader = new ByteReader(bytes, 'WavPack file')
  const bounds: number[] = []
  let at = 0
  let frames = 0
  while (reader.has(at, HEADER_BYTES) && reader.fourCC(at) === 'wvpk') {
    const length = 8 + reader.u32(at + 4, true)
    if (length < HEADER_BYTES || !reader.has(at, length)) break
    const flags = reader.u32(at + 24, true)
    if (flags & IS_FIRST_OF_FRAMES) {
      bounds.push(at)
      frames += reader.u32(at + 20, true)
    }
    at += length
  }
  if (frames === 0) throw new EmporionError('unreadable', 'The WavPack file holds no whole block of audio: it is damaged or cut short.')
  bounds.push(at)
  const version = reader.u16(8, true)
  const flags = reader.u32(24, true)
  if (version < LEAST_VERSION || version > MOST_VERSION) throw new EmporionError('unsupported', { what: `The WavPack file is of version ${version.toString(16)}, which Emporion does not read.`, next: CONVERT_FILE })
  if (flags & IS_DSD) throw new EmporionError('unsupported', { what: 'The WavPack file holds DSD audio, which Emporion does not read.', next: 'Convert it to PCM first.' })
  const stated = reader.u32(12, true)
  const bytesPerSample = (flags & 3) + 1
  return {
    bounds,
    frames,
    statedFrames: stated === UNKNOWN_FRAMES ? undefined : stated,
    bytesPerSample,
    bits: bytesPerSample * 8 - (flags >> 13 & 31),
    isFloat: (flags & IS_FLOAT) !== 0,
    isLossless: (flags & IS_HYBRID) === 0,
  }
}
