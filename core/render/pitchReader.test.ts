import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import wabt from 'wabt'
import { interpolate, sincKernel } from '../audio/sinc'
import { INTERPOLATE_KERNEL } from './interpolateKernel'
import { pitchKernel } from './pitchKernels'
import { PitchReader } from './pitchReader'

const channels = fc.float32Array({ min: -1, max: 1, noNaN: true, minLength: 1, maxLength: 600 })

describe('reading at a pitch', () => {
  const reader = new PitchReader()

  it('gives what plain interpolation gives, forwards and backwards, within and beyond the channel', () => {
    fc.assert(fc.property(channels, fc.double({ min: -700, max: 1300, noNaN: true }), fc.double({ min: -9, max: 9, noNaN: true }), fc.integer({ min: 1, max: 300 }), (channel, position, step, count) => {
      const kernel = pitchKernel(Math.abs(step))
      const out = new Float32Array(count)
      reader.read(channel, out, count, position, step, kernel)
      out.forEach((value, i) => expect(Math.abs(value - interpolate(channel, position + i * step, kernel))).toBeLessThan(2e-5))
    }), { numRuns: 150 })
  })

  it('goes on whole where one block needs more of the channel than its memory holds', () => {
    const channel = Float32Array.from({ length: 200_000 }, (_, i) => Math.sin(i / 900))
    const kernel = sincKernel(16, 0.95, 9, 256)
    const out = new Float32Array(9000)
    reader.read(channel, out, 9000, 100, 20.5, kernel)
    for (const i of [0, 1500, 1600, 4500, 8999]) expect(out[i]).toBeCloseTo(interpolate(channel, 100 + i * 20.5, kernel), 4)
  })

  it('is made of the source that lies beside it', async () => {
    const { parseWat } = await wabt()
    const { buffer } = parseWat('interpolate.wat', readFileSync('core/render/interpolate.wat', 'utf8'), { simd: true }).toBinary({})
    expect(INTERPOLATE_KERNEL).toEqual(buffer)
  })
})
