/** What the header of an MPEG audio frame states. */
export interface MpegHeader {
  readonly layer: 1 | 2 | 3
  readonly sampleRate: number
  readonly isMono: boolean
  /** Of the whole frame. */
  readonly bytes: number
}

/** kbit/s by the four bits of the header; 0 is for free format, which is not looked for. Source: ISO/IEC 11172-3, 2.4.2.3; ISO/IEC 13818-3, 2.4.2.3. */
const BITRATES: Readonly<Record<string, readonly number[]>> = {
  'V1 L1': [0, 32, 64, 96, 128, 160, 192, 224, 256, 288, 320, 352, 384, 416, 448],
  'V1 L2': [0, 32, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320, 384],
  'V1 L3': [0, 32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320],
  'V2 L1': [0, 32, 48, 56, 64, 80, 96, 112, 128, 144, 160, 176, 192, 224, 256],
  'V2 L2': [0, 8, 16, 24, 32, 40, 48, 56, 64, 80, 96, 112, 128, 144, 160],
  'V2 L3': [0, 8, 16, 24, 32, 40, 48, 56, 64, 80, 96, 112, 128, 144, 160],
}
const RATES = [44_100, 48_000, 32_000]
const MONO = 3

/** The header of the frame at `offset`, or undefined where there is none. Source: ISO/IEC 11172-3, 2.4.1.3. */
export function mpegHeader(bytes: Uint8Array, offset: number): MpegHeader | undefined {
  if (offset + 4 > bytes.length || bytes[offset] !== 0xFF || (bytes[offset + 1]! & 0xE0) !== 0xE0) return undefined
  const version = bytes[offset + 1]! >> 3 & 3
  const layer = 4 - (bytes[offset + 1]! >> 1 & 3)
  const rate = RATES[bytes[offset + 2]! >> 2 & 3]
  if (version === 1 || (layer !== 1 && layer !== 2 && layer !== 3) || !rate) return undefined
  const bitrate = BITRATES[`V${version === 3 ? 1 : 2} L${layer}`]![bytes[offset + 2]! >> 4]
  if (!bitrate) return undefined
  const sampleRate = version === 3 ? rate : version === 2 ? rate / 2 : rate / 4
  const padding = bytes[offset + 2]! >> 1 & 1
  return {
    layer, sampleRate, isMono: bytes[offset + 3]! >> 6 === MONO,
    bytes: layer === 1 ? (Math.floor(12_000 * bitrate / sampleRate) + padding) * 4 : Math.floor((layer === 3 && version !== 3 ? 72_000 : 144_000) * bitrate / sampleRate) + padding,
  }
}

/** Silence or what a cut left may lie before the first frame. */
const LOOKED_THROUGH_BYTES = 262_144
/** One header is found in any noise, and two in much of it. */
const IN_A_ROW = 4
const IN_A_ROW_AT_ONCE = 2

/**
 * Where the frames of an MPEG audio stream begin: at once, or behind something else.
 *
 * @returns the offset and the first header; undefined where there is no such stream
 */
export function mpegStart(bytes: Uint8Array): { readonly offset: number, readonly header: MpegHeader } | undefined {
  const last = Math.min(bytes.length, LOOKED_THROUGH_BYTES)
  for (let offset = 0; offset < last; offset++) {
    if (bytes[offset] !== 0xFF) continue
    const header = mpegHeader(bytes, offset)
    if (header && isChain(bytes, offset, header, offset === 0 ? IN_A_ROW_AT_ONCE : IN_A_ROW)) return { offset, header }
  }
  return undefined
}

/** True where so many frames of one kind follow one another. */
function isChain(bytes: Uint8Array, offset: number, first: MpegHeader, length: number): boolean {
  let at = offset
  for (let i = 0; i < length; i++) {
    const header = mpegHeader(bytes, at)
    if (header?.layer !== first.layer || header.sampleRate !== first.sampleRate) return false
    at += header.bytes
  }
  return true
}
