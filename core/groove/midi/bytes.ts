/** Reads bytes in order; past the end it gives undefined. */
export class ByteReader {
  constructor(private readonly bytes: Uint8Array, public at = 0, private readonly end = bytes.length) {}

  get left(): number {
    return this.end - this.at
  }

  byte(): number | undefined {
    return this.at < this.end ? this.bytes[this.at++] : undefined
  }

  /** A big-endian number of so many bytes. */
  number(count: number): number | undefined {
    if (this.left < count) return undefined
    let value = 0
    for (let i = 0; i < count; i++) value = value * 256 + this.bytes[this.at++]!
    return value
  }

  /** A variable-length quantity: seven bits a byte, the top bit set on all but the last, four bytes at most. Source: Standard MIDI Files 1.0. */
  quantity(): number | undefined {
    let value = 0
    for (let i = 0; i < 4; i++) {
      const byte = this.byte()
      if (byte === undefined) return undefined
      value = value * 128 + (byte & 0x7F)
      if (byte < 0x80) return value
    }
    return undefined
  }

  text(count: number): string | undefined {
    if (this.left < count) return undefined
    const part = this.bytes.subarray(this.at, this.at + count)
    this.at += count
    return new TextDecoder().decode(part)
  }

  /** Goes past so many bytes; false when there are not as many. */
  skip(count: number): boolean {
    if (this.left < count) return false
    this.at += count
    return true
  }

  /** A reader of the next bytes alone, fewer where they end before; this one goes past them. */
  part(count: number): ByteReader {
    const end = Math.min(this.end, this.at + count)
    const part = new ByteReader(this.bytes, this.at, end)
    this.at = end
    return part
  }
}

/** The largest value that four bytes of seven bits hold. */
const MOST_QUANTITY = 0x0FFF_FFFF

/** A value as a variable-length quantity. What is larger than the largest is held there. Source: Standard MIDI Files 1.0. */
export function quantityBytes(value: number): number[] {
  let rest = Math.max(0, Math.min(MOST_QUANTITY, Math.round(value)))
  const bytes = [rest % 128]
  while (rest >= 128) {
    rest = Math.floor(rest / 128)
    bytes.unshift(rest % 128 | 0x80)
  }
  return bytes
}

/** A big-endian number as so many bytes. */
export function numberBytes(value: number, count: number): number[] {
  return Array.from({ length: count }, (_, i) => Math.floor(value / 256 ** (count - 1 - i)) % 256)
}
