import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { decodePcm, type PcmLayout } from './pcm'

type Encoding = PcmLayout['encoding']

/** Every way of storing that there is, with the value that its definition gives to the bytes at a place. */
const STORED: readonly { readonly encoding: Encoding, readonly bytes: number, readonly value: (view: DataView, at: number, little: boolean) => number }[] = [
  { encoding: 'unsigned', bytes: 1, value: (view, at) => (view.getUint8(at) - 128) / 128 },
  { encoding: 'signed', bytes: 1, value: (view, at) => view.getInt8(at) / 128 },
  { encoding: 'signed', bytes: 2, value: (view, at, little) => view.getInt16(at, little) / 2 ** 15 },
  { encoding: 'signed', bytes: 3, value: (view, at, little) => {
    const [low, middle, high] = little ? [at, at + 1, at + 2] : [at + 2, at + 1, at]
    return (view.getInt8(high) * 65_536 + view.getUint8(middle) * 256 + view.getUint8(low)) / 2 ** 23
  } },
  { encoding: 'signed', bytes: 4, value: (view, at, little) => view.getInt32(at, little) / 2 ** 31 },
  { encoding: 'float', bytes: 4, value: (view, at, little) => finite(view.getFloat32(at, little)) },
  { encoding: 'float', bytes: 8, value: (view, at, little) => finite(view.getFloat64(at, little)) },
]

function finite(value: number): number {
  return Number.isFinite(value) ? value : 0
}

const stored = fc.record({
  way: fc.constantFrom(...STORED),
  littleEndian: fc.boolean(),
  channels: fc.integer({ min: 1, max: 5 }),
  /** Bytes between the frames that mean nothing. */
  gap: fc.integer({ min: 0, max: 7 }),
  contents: fc.uint8Array({ minLength: 40, maxLength: 600 }),
})

function layoutOf({ encoding, bytes }: typeof STORED[number], channels: number, gap: number, littleEndian: boolean): PcmLayout {
  return { encoding, bytesPerSample: bytes, frameBytes: bytes * channels + gap, littleEndian }
}

describe('stored samples', () => {
  it('become what their definition says, in every layout, from any bytes', () => {
    fc.assert(fc.property(stored, ({ way, littleEndian, channels, gap, contents }) => {
      const layout = layoutOf(way, channels, gap, littleEndian)
      const frames = Math.floor((contents.length + gap) / layout.frameBytes)
      const view = new DataView(contents.buffer, contents.byteOffset)
      const found = decodePcm(contents, channels, frames, layout)
      expect(found.map(channel => channel.length)).toEqual(Array.from({ length: channels }, () => frames))
      found.forEach((channel, c) => channel.forEach((value, frame) => {
        expect(value).toBe(Math.fround(way.value(view, frame * layout.frameBytes + c * way.bytes, littleEndian)))
      }))
    }), { numRuns: 400 })
  })

  it('reach full scale downwards and stop short of it by one step upwards', () => {
    for (const [bytes, low, high] of [[2, [0, 0x80], [0xFF, 0x7F]], [3, [0, 0, 0x80], [0xFF, 0xFF, 0x7F]]] as const) {
      const [channel] = decodePcm(Uint8Array.from([...low, ...high]), 1, 2, { encoding: 'signed', bytesPerSample: bytes, frameBytes: bytes, littleEndian: true })
      expect(channel![0]).toBe(-1)
      expect(channel![1]).toBe(1 - 2 ** (1 - 8 * bytes))
    }
  })

  it('go through however long they are: pieces meet without a seam', () => {
    const frames = 100_003
    for (const channels of [1, 3]) {
      const contents = new Uint8Array(frames * channels * 2)
      const view = new DataView(contents.buffer)
      for (let i = 0; i < frames * channels; i++) view.setInt16(i * 2, (i * 7919) % 65_536 - 32_768, true)
      decodePcm(contents, channels, frames, { encoding: 'signed', bytesPerSample: 2, frameBytes: 2 * channels, littleEndian: true }).forEach((channel, c) => {
        const wrong = channel.findIndex((value, frame) => value !== ((frame * channels + c) * 7919 % 65_536 - 32_768) / 32_768)
        expect(wrong).toBe(-1)
      })
    }
  })

  it('are read across frames as wide as a header can say', () => {
    const frameBytes = 65_535
    const contents = new Uint8Array(frameBytes * 2 + 3)
    contents.set([1, 2, 3], 0)
    contents.set([4, 5, 6], frameBytes)
    contents.set([7, 8, 9], 2 * frameBytes)
    const [channel] = decodePcm(contents, 1, 3, { encoding: 'signed', bytesPerSample: 3, frameBytes, littleEndian: true })
    expect([...channel!].map(value => value * 2 ** 23)).toEqual([0x03_02_01, 0x06_05_04, 0x09_08_07])
  })
})

describe('logarithmic samples', () => {
  const decoded = (encoding: Encoding) => decodePcm(Uint8Array.from({ length: 256 }, (_, code) => code), 1, 256, { encoding, bytesPerSample: 1, frameBytes: 1, littleEndian: true })[0]!

  // ITU-T G.711, tables 1 and 2 (from memory): the largest decoder outputs are 4032 of 4096 (A-law) and 8031 of 8192 (mu-law).
  it('reach what G.711 gives for their outermost codes', () => {
    const aLaw = decoded('a-law')
    expect(aLaw[0xAA]! * 4096).toBe(4032)
    expect(aLaw[0x2A]! * 4096).toBe(-4032)
    expect(aLaw[0xD5]! * 4096).toBe(1)
    const muLaw = decoded('mu-law')
    expect(muLaw[0x80]! * 8192).toBe(8031)
    expect(muLaw[0x00]! * 8192).toBe(-8031)
    expect(Math.abs(muLaw[0xFF]!)).toBe(0)
  })

  it('are as many positive as negative ones, each once', () => {
    for (const encoding of ['a-law', 'mu-law'] as const) {
      const values = [...decoded(encoding)].map(value => value + 0)
      const sorted = values.toSorted((a, b) => a - b)
      sorted.forEach((value, i) => expect(value + sorted[255 - i]!).toBeCloseTo(0, 9))
      expect(new Set(values.filter(value => value > 0)).size).toBe(encoding === 'a-law' ? 128 : 127)
    }
  })
})
