/** How one sample is stored. */
export interface PcmLayout {
  readonly encoding: 'unsigned' | 'signed' | 'float' | 'a-law' | 'mu-law'
  /** Bytes one sample takes. */
  readonly bytesPerSample: number
  /** Bytes from one frame to the next. */
  readonly frameBytes: number
  readonly littleEndian: boolean
}

type ReadSample = (offset: number) => number

/**
 * Turns interleaved stored samples into planar floats, full scale at +-1. Integers are divided by
 * 2^(bits-1), so that any integer up to 24 bits survives exactly; values that are not finite become 0.
 */
export function decodePcm(bytes: Uint8Array, channelCount: number, frames: number, layout: PcmLayout): Float32Array[] {
  if (layout.encoding === 'signed' && layout.littleEndian && layout.bytesPerSample <= 3 && layout.bytesPerSample >= 2) return decodeCommon(bytes, channelCount, frames, layout)
  const read = sampleReader(bytes, layout)
  const { frameBytes, bytesPerSample } = layout
  const channels: Float32Array[] = []
  for (let channel = 0; channel < channelCount; channel++) {
    const out = new Float32Array(frames)
    let offset = channel * bytesPerSample
    for (let frame = 0; frame < frames; frame++) {
      out[frame] = read(offset)
      offset += frameBytes
    }
    channels.push(out)
  }
  return channels
}

/** 16 and 24 bit little-endian integers, what most packs hold, without a call for each sample. */
function decodeCommon(bytes: Uint8Array, channelCount: number, frames: number, { frameBytes, bytesPerSample }: PcmLayout): Float32Array[] {
  return Array.from({ length: channelCount }, (_, channel) => {
    const out = new Float32Array(frames)
    let at = channel * bytesPerSample
    if (bytesPerSample === 2) {
      for (let frame = 0; frame < frames; frame++, at += frameBytes) out[frame] = (bytes[at + 1]! << 24 >> 16 | bytes[at]!) / 0x8000
    }
    else {
      for (let frame = 0; frame < frames; frame++, at += frameBytes) out[frame] = (bytes[at + 2]! << 24 >> 8 | bytes[at + 1]! << 8 | bytes[at]!) / 0x80_0000
    }
    return out
  })
}

function sampleReader(bytes: Uint8Array, layout: PcmLayout): ReadSample {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const little = layout.littleEndian
  switch (layout.encoding) {
    case 'unsigned':
      return o => (bytes[o]! - 128) / 128
    case 'a-law':
      return tableReader(bytes, aLawTable())
    case 'mu-law':
      return tableReader(bytes, muLawTable())
    case 'float':
      return layout.bytesPerSample === 8 ? o => finite(view.getFloat64(o, little)) : o => finite(view.getFloat32(o, little))
    case 'signed':
      return signedReader(bytes, view, layout.bytesPerSample, little)
  }
}

function signedReader(bytes: Uint8Array, view: DataView, bytesPerSample: number, little: boolean): ReadSample {
  switch (bytesPerSample) {
    case 1:
      return o => view.getInt8(o) / 0x80
    case 2:
      return o => view.getInt16(o, little) / 0x8000
    case 3:
      return little
        ? o => ((bytes[o + 2]! << 24 | bytes[o + 1]! << 16 | bytes[o]! << 8) >> 8) / 0x80_0000
        : o => ((bytes[o]! << 24 | bytes[o + 1]! << 16 | bytes[o + 2]! << 8) >> 8) / 0x80_0000
    default:
      return o => view.getInt32(o, little) / 0x8000_0000
  }
}

function tableReader(bytes: Uint8Array, table: Float32Array): ReadSample {
  return o => table[bytes[o]!]!
}

function finite(value: number): number {
  return Number.isFinite(value) ? value : 0
}

/** A-law expansion. Source: ITU-T G.711. */
function aLawTable(): Float32Array {
  return Float32Array.from({ length: 256 }, (_, code) => {
    const a = code ^ 0x55
    const exponent = (a & 0x70) >> 4
    const mantissa = (a & 0x0F) << 4
    const magnitude = exponent === 0 ? mantissa + 8 : (mantissa + 0x108) << (exponent - 1)
    return (a & 0x80 ? magnitude : -magnitude) / 0x8000
  })
}

/** Mu-law expansion. Source: ITU-T G.711. */
function muLawTable(): Float32Array {
  return Float32Array.from({ length: 256 }, (_, code) => {
    const u = ~code & 0xFF
    const magnitude = ((((u & 0x0F) << 3) + 0x84) << ((u & 0x70) >> 4)) - 0x84
    return (u & 0x80 ? -magnitude : magnitude) / 0x8000
  })
}
