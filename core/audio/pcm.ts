import { PCM_KERNEL } from './pcmKernel'

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
  const fast = fastReader(layout)
  return Array.from({ length: channelCount }, (_, channel) => {
    const out = new Float32Array(frames)
    const offset = channel * layout.bytesPerSample
    if (fast) inPieces(bytes.subarray(offset), out, layout.frameBytes, fast)
    else readEach(out, offset, layout.frameBytes, sampleReader(bytes, layout))
    return out
  })
}

function readEach(out: Float32Array, offset: number, frameBytes: number, read: ReadSample): void {
  for (let frame = 0; frame < out.length; frame++) out[frame] = read(offset + frame * frameBytes)
}

type ReadIntegers = (input: number, stride: number, count: number, bigEndian: number, out: number) => void

interface Kernel {
  readonly int16: ReadIntegers
  readonly int24: ReadIntegers
  readonly int32: ReadIntegers
  readonly float32: (input: number, stride: number, count: number, out: number) => void
}

type ReadPiece = (kernel: Kernel, stride: number, count: number, out: number) => void

/** How what most packs hold is read in WebAssembly, without a call for each sample; undefined for the rest. */
function fastReader({ encoding, bytesPerSample, littleEndian }: PcmLayout): ReadPiece | undefined {
  const bigEndian = littleEndian ? 0 : 1
  if (encoding === 'signed' && bytesPerSample === 2) return (kernel, stride, count, out) => kernel.int16(0, stride, count, bigEndian, out)
  if (encoding === 'signed' && bytesPerSample === 3) return (kernel, stride, count, out) => kernel.int24(0, stride, count, bigEndian, out)
  if (encoding === 'signed' && bytesPerSample === 4) return (kernel, stride, count, out) => kernel.int32(0, stride, count, bigEndian, out)
  if (encoding === 'float' && bytesPerSample === 4 && littleEndian) return (kernel, stride, count, out) => kernel.float32(0, stride, count, out)
  return undefined
}

const PAGE_BYTES = 65_536
const IN_BYTES = PAGE_BYTES
const FLOAT_BYTES = 4
const OUT_FLOATS = PAGE_BYTES / FLOAT_BYTES

let opened: { readonly kernel: Kernel, readonly bytes: Uint8Array, readonly floats: Float32Array } | undefined

function open() {
  if (opened) return opened
  const memory = new WebAssembly.Memory({ initial: (IN_BYTES + OUT_FLOATS * FLOAT_BYTES) / PAGE_BYTES })
  const { exports } = new WebAssembly.Instance(new WebAssembly.Module(PCM_KERNEL), { pcm: { memory } })
  opened = { kernel: exports as unknown as Kernel, bytes: new Uint8Array(memory.buffer, 0, IN_BYTES), floats: new Float32Array(memory.buffer, IN_BYTES, OUT_FLOATS) }
  return opened
}

function inPieces(stored: Uint8Array, out: Float32Array, stride: number, read: ReadPiece): void {
  const { kernel, bytes, floats } = open()
  const most = Math.min(OUT_FLOATS, Math.floor(IN_BYTES / stride))
  for (let frame = 0; frame < out.length; frame += most) {
    const count = Math.min(most, out.length - frame)
    bytes.set(stored.subarray(frame * stride, Math.min(stored.length, (frame + count) * stride)))
    read(kernel, stride, count, IN_BYTES)
    out.set(count === OUT_FLOATS ? floats : floats.subarray(0, count), frame)
  }
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
      return o => view.getInt8(o) / 0x80
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
