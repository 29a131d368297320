import { execFileSync } from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sine } from '../../../tests/helpers/audio'
import { freshFolder } from '../../../tests/helpers/folder'
import { decodeAudio } from '../decode'
import { EmporionError } from '../../errors'
import { writeWave, type WaveDepth } from '../wave/write'

const FRAMES = 70_001
/** Over full scale at places, so that its ends are there too. */
const channels = [sine(180, 48_000, FRAMES, 1.2), sine(3000, 48_000, FRAMES, 0.3)].map(channel => channel.map(value => Math.max(-1, Math.min(1, value))))

/** Coded by Debian's `wavpack`. */
function coded(input: Uint8Array, ...options: string[]): Uint8Array {
  const folder = freshFolder()
  const [plain, out] = [join(folder, 'a.wav'), join(folder, 'a.wv')]
  writeFileSync(plain, input)
  execFileSync('wavpack', ['-q', '-y', ...options, plain, '-o', out])
  return readFileSync(out)
}

const wave = (depth: WaveDepth) => writeWave(channels, 48_000, { depth })

describe('reading WavPack', () => {
  it.each([8, 16, 24, 32, 'float'] as const)('gives the very samples that were coded, of depth %s', async (depth) => {
    const plain = await decodeAudio(wave(depth))
    const audio = await decodeAudio(coded(wave(depth)))
    expect(audio).toMatchObject({ sampleRate: 48_000, frames: FRAMES, facts: { container: 'WavPack', codec: 'WavPack', bitDepth: plain.facts.bitDepth, warnings: [] } })
    for (const [i, channel] of audio.channels.entries()) expect(Buffer.compare(bytesOf(channel), bytesOf(plain.channels[i]!))).toBe(0)
  })

  it('takes samples of 12 bits in the upper end of 16 for what they are', async () => {
    const folder = freshFolder()
    const raw = Int16Array.from({ length: 4000 }, (_, i) => Math.round(Math.sin(i / 20) * 2000) * 16)
    writeFileSync(join(folder, 'a.raw'), raw)
    execFileSync('wavpack', ['-q', '-y', '--raw-pcm=44100,12,1', join(folder, 'a.raw'), '-o', join(folder, 'a.wv')])
    const audio = await decodeAudio(readFileSync(join(folder, 'a.wv')))
    expect(audio.facts.bitDepth).toBe(12)
    expect([...audio.channels[0]!]).toEqual([...raw].map(value => value / 0x8000))
  })

  it('reads blocks of many channels that belong together', async () => {
    const six = Array.from({ length: 6 }, (_, i) => sine(100 * (i + 1), 44_100, 50_000, 0.5))
    const plain = writeWave(six, 44_100, { depth: 16 })
    expect((await decodeAudio(coded(plain))).channels).toEqual((await decodeAudio(plain)).channels)
  })

  it('reads the lossy part of a hybrid, and calls it what it is', async () => {
    const audio = await decodeAudio(coded(wave(16), '-b4'))
    expect(audio.facts).toMatchObject({ codec: 'WavPack hybrid', bitDepth: 0 })
    const error = Math.max(...audio.channels[0]!.map((value, i) => Math.abs(value - channels[0]![i]!)))
    expect(error).toBeLessThan(0.05)
    expect(error).toBeGreaterThan(0)
  })

  it('reads what is whole of a file that was cut short, and says so', async () => {
    const file = coded(wave(16))
    const audio = await decodeAudio(file.subarray(0, file.length - 100))
    expect(audio.frames).toBeGreaterThan(20_000)
    expect(audio.frames).toBeLessThan(FRAMES)
    expect(audio.facts.warnings).toEqual([`The file is cut short: ${audio.frames} of the ${FRAMES} frames that its header speaks of are there.`])
    await expect(decodeAudio(file.subarray(0, 500))).rejects.toThrow('no whole block of audio')
  })

  it('ends damaged files in audio or in an error with a reason', async () => {
    const whole = coded(writeWave(channels.map(channel => channel.subarray(0, 3000)), 48_000, { depth: 16 }))
    await fc.assert(fc.asyncProperty(fc.array(fc.tuple(fc.nat(whole.length - 1), fc.nat(255)), { minLength: 1, maxLength: 10 }), async (changes) => {
      const damaged = whole.slice()
      for (const [at, value] of changes) damaged[at] = value
      try {
        const audio = await decodeAudio(damaged)
        expect(audio.channels.every(channel => channel.length === audio.frames)).toBe(true)
      }
      catch (thrown) {
        expect(thrown).toBeInstanceOf(EmporionError)
      }
    }), { numRuns: 300 })
  })
})

function bytesOf(channel: Float32Array): Uint8Array {
  return new Uint8Array(channel.buffer, channel.byteOffset, channel.byteLength)
}
