import { MOST_CHUNKS } from '../limits'

const HEADER_BYTES = 27
const WHOLE_SEGMENT = 255
const MOST_PAGES = MOST_CHUNKS * 64

/**
 * The packets of the first stream in an Ogg file, in their order. Pages of other streams and what lies between pages is passed over.
 * Source: RFC 3533, 6.
 */
export function oggPackets(bytes: Uint8Array): Uint8Array[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const packets: Uint8Array[] = []
  let parts: Uint8Array[] = []
  let serial: number | undefined
  let pages = 0
  for (let at = pageAt(bytes, 0); at >= 0 && pages < MOST_PAGES; pages++) {
    const segments = bytes.subarray(at + HEADER_BYTES, at + HEADER_BYTES + bytes[at + 26]!)
    let from = at + HEADER_BYTES + segments.length
    const isOurs = view.getUint32(at + 14, true) === (serial ??= view.getUint32(at + 14, true))
    for (const size of segments) {
      if (isOurs) parts.push(bytes.subarray(from, from + size))
      from += size
      if (!isOurs || size === WHOLE_SEGMENT) continue
      packets.push(joined(parts))
      parts = []
    }
    at = pageAt(bytes, from)
  }
  return packets
}

/** Where the next page with a whole header begins, or -1. */
function pageAt(bytes: Uint8Array, from: number): number {
  for (let at = from; at + HEADER_BYTES <= bytes.length; at++) {
    if (bytes[at] === 0x4F && bytes[at + 1] === 0x67 && bytes[at + 2] === 0x67 && bytes[at + 3] === 0x53) return at
  }
  return -1
}

function joined(parts: readonly Uint8Array[]): Uint8Array {
  const [only] = parts
  if (only && parts.length === 1) return only
  const whole = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0))
  let at = 0
  for (const part of parts) {
    whole.set(part, at)
    at += part.length
  }
  return whole
}
