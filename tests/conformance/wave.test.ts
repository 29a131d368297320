import { spawnSync } from 'node:child_process'
import fc from 'fast-check'
import { WaveFile } from 'wavefile'
import { describe, expect, it } from 'vitest'
import { readWave } from '../../core/audio/wave/read'
import { writeWave } from '../../core/audio/wave/write'

// Held against the npm library `wavefile` 11 (references.md), both ways.
const DEPTHS = ['8', '16', '24', '32', '32f', '64'] as const

describe('WAVE files of another library', () => {
  it('are read sample by sample as that library wrote them', () => {
    fc.assert(fc.property(fc.constantFrom(...DEPTHS), fc.constantFrom(1, 2, 3), fc.constantFrom(22_050, 44_100, 96_000), fc.array(fc.integer({ min: -100, max: 100 }), { minLength: 1, maxLength: 30 }), (depth, channelCount, rate, values) => {
      const isFloat = depth.endsWith('f') || depth === '64'
      const scale = isFloat ? 1 / 100 : depth === '8' ? 1 : 2 ** (Number(depth) - 8) * 1
      const stored = (value: number) => isFloat ? value * scale : depth === '8' ? value + 128 : value * scale
      const file = new WaveFile()
      const channels = Array.from({ length: channelCount }, (_, c) => values.map(value => stored(c === 1 ? -value : value)))
      file.fromScratch(channelCount, rate, depth, channelCount === 1 ? channels[0]! : channels)
      const audio = readWave(file.toBuffer())
      expect(audio.sampleRate).toBe(rate)
      const full = isFloat ? 100 : 128
      values.forEach((value, i) => {
        expect(audio.channels[0]![i]! + 0).toBe(Math.fround(value / full) + 0)
        if (channelCount > 1) expect(audio.channels[1]![i]! + 0).toBe(Math.fround(-value / full) + 0)
      })
    }))
  })

  it('of this house are read by that library with the same samples, rate, root note and texts', () => {
    for (const depth of [8, 16, 24, 32, 'float'] as const) {
      // That library takes EXTENSIBLE float for integers, so float is held against it in two channels at most.
      for (const channelCount of depth === 'float' ? [1, 2] : [1, 2, 4]) {
        const scale = depth === 'float' ? 1 : 2 ** (depth - 1)
        const channels = Array.from({ length: channelCount }, (_, c) => Float32Array.from([0, 0.5, -0.5, 2 ** -(c + 2), -1]))
        const file = new WaveFile(writeWave(channels, 48_000, { depth, embedded: { rootNote: 61, info: { INAM: 'Möwe' } } }))
        expect((file.fmt as { sampleRate: number }).sampleRate).toBe(48_000)
        const samples = file.getSamples(false, Float64Array) as unknown as Float64Array | Float64Array[]
        const read = (channelCount === 1 ? [samples] : samples) as Float64Array[]
        channels.forEach((channel, c) => channel.forEach((value, i) => {
          expect(read[c]![i]! - (depth === 8 ? 128 : 0)).toBe(value * scale)
        }))
        expect((file.smpl as { dwMIDIUnityNote: number }).dwMIDIUnityNote).toBe(61)
      }
    }
  })

  it('of floats say what the standard asks of all that is not PCM, and sox has no complaint', () => {
    // Microsoft, New Multimedia Data Types (1994), from memory: the size of what the format says beyond 16 bytes, and a fact chunk with the frames.
    const bytes = writeWave([new Float32Array(7), new Float32Array(7)], 48_000, { depth: 'float' })
    const view = new DataView(bytes.buffer)
    const text = (at: number) => new TextDecoder().decode(bytes.subarray(at, at + 4))
    expect([text(12), view.getUint32(16, true), view.getUint16(20, true), view.getUint16(36, true)]).toEqual(['fmt ', 18, 3, 0])
    expect([text(38), view.getUint32(42, true), view.getUint32(46, true), text(50)]).toEqual(['fact', 4, 7, 'data'])
    expect(spawnSync('sox', ['-t', 'wav', '-', '-n'], { input: bytes, encoding: 'utf8' })).toMatchObject({ status: 0, stderr: '' })
  })
})
