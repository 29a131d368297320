import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { WaveFile as ForeignWave } from 'wavefile'
import type { StereoDepth } from '../../core/audio/wave/stereoEncoder'
import { freshFolder } from '../../tests/helpers/folder'
import { WaveFile } from './waveFile'

const folder = freshFolder()
let made = 0

/** Writes blocks into a file and reads it by a library that is not ours. */
async function written(blocks: readonly number[], depth: StereoDepth): Promise<{ bytes: number, size: number, file: ForeignWave, highest: number }> {
  const path = join(folder, `${++made}.wav`)
  const file = new WaveFile(path, { sampleRate: 48_000, depth, gain: 1, seed: 1 })
  let at = 0
  for (const frames of blocks) {
    const left = Float32Array.from({ length: frames }, (_, i) => 0.5 * Math.sin((at + i) / 50))
    file.add([left, left.map(value => -value)])
    at += frames
  }
  const bytes = await file.finish()
  await file.close()
  const contents = readFileSync(path)
  return { bytes, size: contents.length, file: new ForeignWave(contents), highest: file.highest }
}

describe('a WAVE file that is written as it comes', () => {
  it('is whole, of whatever blocks and depth, as another reader has it (package `wavefile`)', async () => {
    await fc.assert(fc.asyncProperty(fc.array(fc.integer({ min: 1, max: 4_096 }), { minLength: 1, maxLength: 40 }), fc.constantFrom<StereoDepth>(16, 24, 'float'), async (blocks, depth) => {
      const { bytes, size, file } = await written(blocks, depth)
      const frames = blocks.reduce((sum, count) => sum + count, 0)
      expect(bytes).toBe(size)
      expect(file.fmt).toMatchObject({ numChannels: 2, sampleRate: 48_000, bitsPerSample: depth === 'float' ? 32 : depth })
      const [left, right] = file.getSamples(false) as unknown as [Float64Array, Float64Array]
      expect([left.length, right.length]).toEqual([frames, frames])
      const scale = depth === 'float' ? 1 : 2 ** (depth - 1)
      // Dither and rounding come to 3/2 of the last bit at most.
      const most = depth === 'float' ? 1e-7 : 1.5 / scale
      for (const i of [0, frames >> 1, frames - 1]) {
        expect(Math.abs(left[i]! / scale - 0.5 * Math.sin(i / 50))).toBeLessThanOrEqual(most + 1e-7)
        expect(Math.abs(right[i]! / scale + 0.5 * Math.sin(i / 50))).toBeLessThanOrEqual(most + 1e-7)
      }
    }), { numRuns: 25 })
  })

  it('goes on over many parts of its memory, and knows its highest value', async () => {
    const { file, highest } = await written(Array.from({ length: 60 }, () => 4_096), 24)
    expect((file.getSamples(false) as unknown as Float64Array[])[0]!.length).toBe(60 * 4_096)
    expect(highest).toBeCloseTo(0.5, 4)
  })

  it('never takes the place of a file that is there', () => {
    const path = join(folder, 'taken.wav')
    writeFileSync(path, 'mine')
    expect(() => new WaveFile(path, { sampleRate: 48_000, depth: 16, gain: 1, seed: 1 })).toThrow(/EEXIST/)
    expect(readFileSync(path, 'utf8')).toBe('mine')
    expect(existsSync(path)).toBe(true)
  })
})
