import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { writeAiff } from '../../../demo/packs/aiff'
import { sine } from '../../../tests/helpers/audio'
import { EmporionError } from '../../errors'
import { readWave } from '../wave/read'
import { writeWave } from '../wave/write'
import { readAiff } from './read'

const text = (value: string) => [...value].map(letter => letter.charCodeAt(0))
const be16 = (value: number) => [value >> 8 & 255, value & 255]
const be32 = (value: number) => [value >>> 24, value >> 16 & 255, value >> 8 & 255, value & 255]
/** 44,100 Hz as an 80-bit extended number (Apple AIFF 1.3, "Data types": 400E AC44 0000 0000 0000). */
const RATE_44100 = [0x40, 0x0E, 0xAC, 0x44, 0, 0, 0, 0, 0, 0]

function aifc(compression: string, bits: number, data: readonly number[], frames: number): Uint8Array {
  const comm = [...text('COMM'), ...be32(24), ...be16(1), ...be32(frames), ...be16(bits), ...RATE_44100, ...text(compression), 0, 0]
  const ssnd = [...text('SSND'), ...be32(data.length + 8), ...be32(0), ...be32(0), ...data]
  return Uint8Array.from([...text('FORM'), ...be32(4 + comm.length + ssnd.length), ...text('AIFC'), ...comm, ...ssnd])
}

describe('reading AIFF', () => {
  it('reads the rate from its 80-bit form and big-endian samples', () => {
    const audio = readAiff(aifc('NONE', 16, [0x40, 0x00, 0xC0, 0x00], 2))
    expect(audio.sampleRate).toBe(44_100)
    expect([...audio.channels[0]!]).toEqual([0.5, -0.5])
  })

  it('reads sowt as little-endian and fl32 as float (AIFF-C 1991)', () => {
    expect([...readAiff(aifc('sowt', 16, [0x00, 0x40, 0x00, 0xC0], 2)).channels[0]!]).toEqual([0.5, -0.5])
    expect([...readAiff(aifc('fl32', 32, [0x3E, 0x80, 0x00, 0x00], 1)).channels[0]!]).toEqual([0.25])
  })

  it('gives the same samples as a WAVE of the same audio', () => {
    const channels = [sine(440, 48_000, 100, 0.7), sine(220, 48_000, 100, 0.3)]
    for (const depth of [8, 16, 24, 32] as const) {
      const wave = readWave(writeWave(channels, 48_000, { depth }))
      const aiff = readAiff(writeAiff(channels, 48_000, depth))
      expect(aiff.channels).toEqual(wave.channels)
      expect(aiff.sampleRate).toBe(48_000)
    }
  })

  it('says what a cut file lacks, and names a compression it does not read', () => {
    expect(readAiff(aifc('NONE', 16, [0, 0], 9)).facts.warnings[0]).toMatch(/1 of the 9 frames/)
    expect(() => readAiff(aifc('QDM2', 16, [0, 0], 1))).toThrow(/"QDM2"/)
  })

  it('ends truncated and damaged files in audio or in an error with a reason', () => {
    const whole = writeAiff([sine(440, 44_100, 50)], 44_100, 16)
    fc.assert(fc.property(fc.nat(whole.length), fc.array(fc.tuple(fc.nat(whole.length - 1), fc.nat(255)), { maxLength: 10 }), (length, changes) => {
      const damaged = whole.slice()
      for (const [at, value] of changes) damaged[at] = value
      try {
        const audio = readAiff(damaged.slice(0, length))
        expect(audio.channels[0]!.length).toBe(audio.frames)
      }
      catch (thrown) {
        expect(thrown).toBeInstanceOf(EmporionError)
      }
    }), { numRuns: 500 })
  })
})
