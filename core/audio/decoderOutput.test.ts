import { describe, expect, it } from 'vitest'
import { EmporionError } from '../errors'
import { orFree, withDecoder } from './decoderOutput'

const outOfBounds = () => {
  throw new WebAssembly.RuntimeError('memory access out of bounds')
}
const broken = { ready: Promise.resolve(), free: outOfBounds }
const decoded = { channelData: [new Float32Array(1)], samplesDecoded: 1, sampleRate: 44_100, errors: [] }

describe('a decoder that a damaged file left broken', () => {
  it('gives what it decoded, though it can no longer be freed', async () => {
    expect(await withDecoder(broken, () => Promise.resolve(decoded))).toBe(decoded)
  })

  it('fails with a reason, and not with that of its own memory', async () => {
    await expect(orFree(broken, outOfBounds)).rejects.toThrow(EmporionError)
  })
})
