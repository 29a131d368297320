const HEADER_BYTES = 10
const HAS_FOOTER = 0x10

/**
 * The bytes behind the ID3 tag that a file begins with, where it has one: some programs put it before files of any container.
 * Source: ID3v2.4.0, main structure (id3.org), 3.1: the size has four times seven bits.
 */
export function behindTag(bytes: Uint8Array): Uint8Array {
  if (bytes.length < HEADER_BYTES || bytes[0] !== 0x49 || bytes[1] !== 0x44 || bytes[2] !== 0x33) return bytes
  const size = bytes.subarray(6, HEADER_BYTES).reduce((sum, byte) => sum << 7 | byte & 0x7F, 0)
  return bytes.subarray(HEADER_BYTES + size + (bytes[5]! & HAS_FOOTER ? HEADER_BYTES : 0))
}
