import { startsWith } from '../bytes'
import { MOST_CHUNKS } from '../limits'
import { crc8, nextCrc16 } from './crc'

const SHORTEST_HEADER = 6
const HEADERS_OF_METADATA = 4

/** The frames of a FLAC stream, in their order. */
export interface FlacFrames {
  readonly frames: Uint8Array[]
  /** Each is whole, and nothing lies behind the last one. */
  readonly areExact: boolean
}

/**
 * Takes a FLAC stream apart. A frame ends where its own checksum comes out and the header of another follows; a damaged one where the
 * next header follows. The last one has whatever lies behind it. Source: RFC 9639, 8 and 9.
 */
export function flacFrames(bytes: Uint8Array): FlacFrames {
  const frames: Uint8Array[] = []
  let areExact = true
  for (let at = nextHeader(bytes, behindMetadata(bytes)); at < bytes.length;) {
    const { end, isExact } = endOfFrame(bytes, at)
    frames.push(bytes.subarray(at, end))
    areExact &&= isExact
    at = end
  }
  return { frames, areExact }
}

/** Where the metadata ends. */
function behindMetadata(bytes: Uint8Array): number {
  let at = startsWith(bytes, 'fLaC') ? HEADERS_OF_METADATA : 0
  for (let blocks = 0; at > 0 && at + HEADERS_OF_METADATA <= bytes.length && blocks < MOST_CHUNKS; blocks++) {
    const isLast = (bytes[at]! & 0x80) !== 0
    at += HEADERS_OF_METADATA + (bytes[at + 1]! << 16 | bytes[at + 2]! << 8 | bytes[at + 3]!)
    if (isLast) break
  }
  return at
}

function nextHeader(bytes: Uint8Array, from: number): number {
  for (let at = from; at + SHORTEST_HEADER <= bytes.length; at++) if (isFrameHeader(bytes, at)) return at
  return bytes.length
}

function endOfFrame(bytes: Uint8Array, start: number): { readonly end: number, readonly isExact: boolean } {
  let sum = 0
  let firstHeader: number | undefined
  for (let at = start; at < bytes.length; at++) {
    if (at > start && bytes[at] === 0xFF && isFrameHeader(bytes, at)) {
      if (sum === 0) return { end: at, isExact: true }
      firstHeader ??= at
    }
    sum = nextCrc16(sum, bytes[at]!)
  }
  // To its end or damaged: what looks like a header within the last frame would come before a frame that never ends well.
  return sum === 0 ? { end: bytes.length, isExact: true } : { end: firstHeader ?? bytes.length, isExact: false }
}

/** Bytes behind the coded number that state the block size, and those that state the sample rate, by their four bits. */
const SIZE_BYTES: Readonly<Record<number, number>> = { 6: 1, 7: 2 }
const RATE_BYTES: Readonly<Record<number, number>> = { 12: 1, 13: 2, 14: 2 }

/** True where the header of a frame lies, with its own checksum. Source: RFC 9639, 9.1. */
export function isFrameHeader(bytes: Uint8Array, at: number): boolean {
  if (bytes[at] !== 0xFF || (bytes[at + 1]! & 0xFE) !== 0xF8) return false
  const [sizeBits, rateBits] = [bytes[at + 2]! >> 4, bytes[at + 2]! & 15]
  const [channelBits, depthBits, reserved] = [bytes[at + 3]! >> 4, bytes[at + 3]! >> 1 & 7, bytes[at + 3]! & 1]
  if (sizeBits === 0 || rateBits === 15 || channelBits > 10 || depthBits === 3 || reserved !== 0) return false
  const end = at + 4 + codedNumberBytes(bytes[at + 4]!) + (SIZE_BYTES[sizeBits] ?? 0) + (RATE_BYTES[rateBits] ?? 0)
  return end < bytes.length && crc8(bytes, at, end) === bytes[end]
}

/** Length of a number that is coded as UTF-8 is, up to seven bytes. */
function codedNumberBytes(first: number): number {
  const ones = Math.clz32(~(first << 24))
  return ones === 0 ? 1 : ones
}
