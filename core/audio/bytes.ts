import { EmporionError } from '../errors'

/** True when the bytes begin with these characters, each of one byte. */
export function startsWith(bytes: Uint8Array, text: string): boolean {
  if (bytes.length < text.length) return false
  for (let i = 0; i < text.length; i++) if (bytes[i] !== text.charCodeAt(i)) return false
  return true
}

/**
 * Reads numbers and texts from bytes with every access checked, so that a hostile file ends in an
 * `unreadable` error and never in a read past the end.
 */
export class ByteReader {
  readonly length: number
  private readonly view: DataView

  constructor(private readonly bytes: Uint8Array, private readonly what: string) {
    this.length = bytes.byteLength
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  }

  /** True when `count` bytes can be read at `offset`. */
  has(offset: number, count: number): boolean {
    return offset >= 0 && count >= 0 && offset + count <= this.length
  }

  u8(offset: number): number {
    this.need(offset, 1)
    return this.view.getUint8(offset)
  }

  i8(offset: number): number {
    this.need(offset, 1)
    return this.view.getInt8(offset)
  }

  u16(offset: number, littleEndian: boolean): number {
    this.need(offset, 2)
    return this.view.getUint16(offset, littleEndian)
  }

  i16(offset: number, littleEndian: boolean): number {
    this.need(offset, 2)
    return this.view.getInt16(offset, littleEndian)
  }

  u32(offset: number, littleEndian: boolean): number {
    this.need(offset, 4)
    return this.view.getUint32(offset, littleEndian)
  }

  /** A whole number of 64 bits; above 2^53 the nearest that a number can be. */
  u64(offset: number, littleEndian: boolean): number {
    this.need(offset, 8)
    return Number(this.view.getBigUint64(offset, littleEndian))
  }

  f32(offset: number, littleEndian: boolean): number {
    this.need(offset, 4)
    return this.view.getFloat32(offset, littleEndian)
  }

  f64(offset: number, littleEndian: boolean): number {
    this.need(offset, 8)
    return this.view.getFloat64(offset, littleEndian)
  }

  /** Four characters as they stand, one byte each. */
  fourCC(offset: number): string {
    this.need(offset, 4)
    return String.fromCharCode(this.bytes[offset]!, this.bytes[offset + 1]!, this.bytes[offset + 2]!, this.bytes[offset + 3]!)
  }

  /** Text up to the first NUL: UTF-8 where it is valid, otherwise Latin-1. */
  text(offset: number, count: number): string {
    const slice = this.slice(offset, count)
    const end = slice.indexOf(0)
    const cut = end < 0 ? slice : slice.subarray(0, end)
    try {
      return new TextDecoder('utf-8', { fatal: true }).decode(cut).trim()
    }
    catch {
      return new TextDecoder('latin1').decode(cut).trim()
    }
  }

  slice(offset: number, count: number): Uint8Array {
    this.need(offset, count)
    return this.bytes.subarray(offset, offset + count)
  }

  private need(offset: number, count: number): void {
    if (!this.has(offset, count)) {
      throw new EmporionError('unreadable', `The ${this.what} ends at byte ${this.length}, before byte ${offset + count} that its header speaks of.`)
    }
  }
}

/** A code of four characters for a message: without the blanks at its end, and a question mark for what is no character. */
export function readable(code: string): string {
  return code.trimEnd().replace(/[^\x20-\x7E]/g, '?')
}
