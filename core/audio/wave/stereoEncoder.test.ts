import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { rmsOf, sine } from '../../../tests/helpers/audio'
import { tpdfDither } from '../dither'
import { readWave } from './read'
import { PIECE_FRAMES, StereoEncoder, type StereoDepth } from './stereoEncoder'
import { encodeFrames, waveStart } from './write'

function encoded(blocks: readonly (readonly [Float32Array, Float32Array])[], depth: StereoDepth, seed: number, gain = 1): Uint8Array {
  const encoder = new StereoEncoder(depth, seed)
  const out = new Uint8Array(blocks.reduce((sum, [left]) => sum + left.length, 0) * encoder.frameBytes)
  let at = 0
  for (const [left, right] of blocks) {
    encoder.encode(left, right, gain, out, at)
    at += left.length * encoder.frameBytes
  }
  return out
}

/** What is so small that a double loses it beside the dither is left out: the plain code rounds it away, where the kernel is exact. */
const LOST = 2 ** -60
const sample = fc.oneof(fc.float({ min: Math.fround(-1.3), max: Math.fround(1.3), noNaN: true }), fc.constantFrom(0, 1, -1, 1e30, -1e30, 2 ** -24, -(2 ** -23), 2 ** -40, -(2 ** -30))).map(value => Math.abs(value) < LOST ? 0 : value)
/** Never of silence alone, which is not dithered. */
const block = fc.array(fc.tuple(sample, sample), { minLength: 1, maxLength: 37 }).filter(frames => frames.flat().some(value => value !== 0)).map(frames => [Float32Array.from(frames, ([left]) => left), Float32Array.from(frames, ([, right]) => right)] as const)

describe('encoding in WebAssembly', () => {
  it('gives the bytes of the plain code, of any blocks, depth and seed', () => {
    fc.assert(fc.property(fc.array(block, { maxLength: 5 }), fc.constantFrom<StereoDepth>(16, 24, 'float'), fc.integer(), (blocks, depth, seed) => {
      const dither = tpdfDither(seed)
      const expected = blocks.flatMap(channels => [...encodeFrames(channels, { depth, ...(depth === 'float' ? {} : { dither }) })])
      expect([...encoded(blocks, depth, seed)]).toEqual(expected)
    }))
  })

  it('does so for blocks longer than its memory', () => {
    const [left, right] = [sine(440, 48_000, 10_001, 0.7), sine(97, 48_000, 10_001, 1.1)]
    for (const depth of [16, 24] as const) {
      expect(encoded([[left, right]], depth, 9)).toEqual(encodeFrames([left, right], { depth, dither: tpdfDither(9) }))
    }
  })

  it('leaves silence silent, and dithers what comes after it as if it had been dithered', () => {
    const [silence, tone] = [new Float32Array(PIECE_FRAMES), sine(440, 48_000, 100, 0.01)]
    const bytes = encoded([[silence, silence], [tone, silence.subarray(0, 100)]], 24, 7)
    expect(bytes.subarray(0, PIECE_FRAMES * 6).every(byte => byte === 0)).toBe(true)
    const dither = tpdfDither(7)
    for (let i = 0; i < 2 * PIECE_FRAMES; i++) dither()
    expect(bytes.subarray(PIECE_FRAMES * 6)).toEqual(encodeFrames([tone, silence.subarray(0, 100)], { depth: 24, dither }))
  })

  it('knows the highest value, before the gain, and holds at full scale', () => {
    const encoder = new StereoEncoder(16, 1)
    const out = new Uint8Array(8)
    encoder.encode(Float32Array.of(0.25, -1.5), Float32Array.of(0, 1.25), 1, out, 0)
    expect(encoder.highest).toBe(1.5)
    const [left, right] = readWave(Uint8Array.from([...waveStart({ channelCount: 2, frames: 2, sampleRate: 48_000, depth: 16 }), ...out])).channels
    expect([left![1], right![1]]).toEqual([-1, Math.fround(32_767 / 32_768)])
  })

  it('leaves an error of LSB/2 RMS, whatever the gain (TPDF dither, references.md)', () => {
    const [left, right] = [sine(997, 48_000, 96_000, 0.3), new Float32Array(96_000)]
    const bytes = encoded([[left, right]], 16, 3, 0.5)
    const written = readWave(Uint8Array.from([...waveStart({ channelCount: 2, frames: 96_000, sampleRate: 48_000, depth: 16 }), ...bytes])).channels
    for (const [i, channel] of [left, right].entries()) {
      const error = rmsOf(written[i]!.map((value, t) => value - channel[t]! * 0.5)) * 2 ** 15
      expect(error).toBeGreaterThan(0.49)
      expect(error).toBeLessThan(0.51)
    }
  })
})
