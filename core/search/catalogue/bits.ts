/** A set of whole numbers from 0 up, one bit each. Sets that are combined are of one size. */
export class Bits {
  readonly words: Uint32Array

  constructor(readonly size: number, words?: Uint32Array) {
    this.words = words ?? new Uint32Array(Math.ceil(size / 32))
  }

  /** Every number below the size. */
  static full(size: number): Bits {
    const bits = new Bits(size)
    bits.words.fill(0xFFFFFFFF)
    if (size % 32 > 0) bits.words[bits.words.length - 1] = 2 ** (size % 32) - 1
    return bits
  }

  /** The numbers for which something is so. */
  static where(size: number, isSo: (n: number) => boolean): Bits {
    const bits = new Bits(size)
    for (let n = 0; n < size; n++) if (isSo(n)) bits.add(n)
    return bits
  }

  /** The places of a column whose values lie between two, both meant; what is no number lies nowhere. */
  static between(column: Float32Array, low: number, high: number, size: number): Bits {
    const bits = new Bits(size)
    for (let i = 0, from = 0; from < size; i++, from += 32) {
      const to = Math.min(size, from + 32)
      let word = 0
      for (let n = from; n < to; n++) if (column[n]! >= low && column[n]! <= high) word |= 1 << (n - from)
      bits.words[i] = word
    }
    return bits
  }

  add(n: number): void {
    this.words[n >>> 5]! |= 1 << (n & 31)
  }

  has(n: number): boolean {
    return (this.words[n >>> 5]! & 1 << (n & 31)) !== 0
  }

  /** True where both hold the same numbers. */
  isSame(other: Bits): boolean {
    return this.size === other.size && this.words.every((word, i) => word === other.words[i])
  }

  copy(): Bits {
    return new Bits(this.size, this.words.slice())
  }

  /** Keeps what is in the other as well. */
  keep(other: Bits): this {
    for (let i = 0; i < this.words.length; i++) this.words[i]! &= other.words[i]!
    return this
  }

  /** Takes in what is in the other. */
  join(other: Bits): this {
    for (let i = 0; i < this.words.length; i++) this.words[i]! |= other.words[i]!
    return this
  }

  /** Drops what is in the other. */
  subtract(other: Bits): this {
    for (let i = 0; i < this.words.length; i++) this.words[i]! &= ~other.words[i]!
    return this
  }

  count(): number {
    let sum = 0
    for (const word of this.words) sum += ones(word)
    return sum
  }

  /** How many are in both, without making the set. */
  countWith(other: Bits): number {
    let sum = 0
    for (let i = 0; i < this.words.length; i++) sum += ones(this.words[i]! & other.words[i]!)
    return sum
  }

  /** The numbers in their order. */
  toArray(): Int32Array {
    const found = new Int32Array(this.count())
    let place = 0
    for (let i = 0; i < this.words.length; i++) {
      let word = this.words[i]!
      while (word !== 0) {
        const lowest = word & -word
        found[place++] = i * 32 + 31 - Math.clz32(lowest)
        word ^= lowest
      }
    }
    return found
  }

  each(visit: (n: number) => void): void {
    for (let i = 0; i < this.words.length; i++) {
      let word = this.words[i]!
      while (word !== 0) {
        const lowest = word & -word
        visit(i * 32 + 31 - Math.clz32(lowest))
        word ^= lowest
      }
    }
  }
}

/** Bits that are set in 32. Source: Warren, "Hacker's Delight", 5-1. */
function ones(word: number): number {
  const pairs = word - (word >>> 1 & 0x55555555)
  const fours = (pairs & 0x33333333) + (pairs >>> 2 & 0x33333333)
  return Math.imul(fours + (fours >>> 4) & 0x0F0F0F0F, 0x01010101) >>> 24
}
