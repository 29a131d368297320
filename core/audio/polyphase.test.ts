import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Polyphase } from './polyphase'
import { sincKernel } from './sinc'

describe('polyphase conversion', () => {
  it('gives the sums that plain code gives, for any ratio and length', () => {
    const ratios = fc.constantFrom([160, 147], [147, 160], [1, 2], [2, 1], [320, 147], [7, 5])
    fc.assert(fc.property(ratios, fc.float32Array({ min: -1, max: 1, noNaN: true, minLength: 1, maxLength: 400 }), ([up, down], input) => {
      const kernel = sincKernel(8, 0.9 * Math.min(1, up! / down!), 8, up!)
      const out = new Float32Array(Math.max(1, Math.round(input.length * up! / down!)))
      new Polyphase(up!, down!, kernel).convert(input, out)
      out.forEach((value, i) => {
        const base = Math.floor(i * down! / up!)
        const row = i * down! % up! * kernel.halfWidth * 2
        let sum = 0
        for (let tap = 0; tap < kernel.halfWidth * 2; tap++) sum += (input[base - kernel.halfWidth + 1 + tap] ?? 0) * kernel.table[row + tap]!
        expect(Math.abs(value - sum)).toBeLessThan(2e-5)
      })
    }), { numRuns: 60 })
  })

  it('goes on whole from stretch to stretch', () => {
    const kernel = sincKernel(16, 0.9, 9, 3)
    const input = Float32Array.from({ length: 20_000 }, (_, i) => Math.sin(i / 20))
    const out = new Float32Array(30_000)
    new Polyphase(3, 2, kernel).convert(input, out)
    for (let i = 200; i < 29_800; i += 7) expect(out[i]).toBeCloseTo(Math.sin(i * 2 / 3 / 20), 3)
  })
})
