import { execFileSync } from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sine } from '../../../tests/helpers/audio'
import { freshFolder } from '../../../tests/helpers/folder'
import { EmporionError } from '../../errors'
import { readWave } from './read'
import { writeWave } from './write'

const FRAMES = 7321
const CODECS = [['IMA ADPCM', 'ima-adpcm'], ['MS ADPCM', 'ms-adpcm']] as const
const channels = [sine(180, 22_050, FRAMES, 0.7).map((value, i) => value * Math.exp(-i / 2000)), sine(3000, 22_050, FRAMES, 0.3)]

/** A file as SoX (Debian) codes it, and what SoX reads from it. */
function bySox(encoding: string, channelCount: number): { readonly coded: Uint8Array, readonly decoded: readonly Float32Array[] } {
  const folder = freshFolder()
  const [plain, coded, back] = ['plain.wav', 'coded.wav', 'back.wav'].map(name => join(folder, name)) as [string, string, string]
  writeFileSync(plain, writeWave(channels.slice(0, channelCount), 22_050, { depth: 16 }))
  execFileSync('sox', [plain, '-e', encoding, coded])
  execFileSync('sox', ['-D', coded, '-e', 'signed-integer', '-b', '16', back])
  return { coded: readFileSync(coded), decoded: readWave(readFileSync(back)).channels }
}

describe.each(CODECS)('%s', (codec, encoding) => {
  it.each([1, 2])('of %i channels is read to the sample as SoX reads it, and without what fills the last block, which SoX leaves in', (channelCount) => {
    const { coded, decoded } = bySox(encoding, channelCount)
    const audio = readWave(coded)
    expect(audio.facts).toMatchObject({ container: 'WAVE', codec, bitDepth: 0, warnings: [] })
    expect(audio.frames).toBe(FRAMES)
    expect(audio.channels.map(channel => [...channel])).toEqual(decoded.map(channel => [...channel.subarray(0, FRAMES)]))
  })

  it('cut short is read as far as it goes, and says so', () => {
    const { coded, decoded } = bySox(encoding, 2)
    const audio = readWave(coded.subarray(0, 4000))
    expect(audio.frames).toBeGreaterThan(3000)
    expect(audio.frames).toBeLessThan(FRAMES)
    expect(audio.facts.warnings).toEqual([`The file is cut short: ${audio.frames} of the ${FRAMES} frames that its header speaks of are there.`])
    for (const [i, channel] of audio.channels.entries()) expect([...channel]).toEqual([...decoded[i]!.subarray(0, audio.frames)])
  })

  it('of any damage ends in audio or in an error with a reason', () => {
    const { coded } = bySox(encoding, 2)
    fc.assert(fc.property(fc.nat(coded.length), fc.array(fc.tuple(fc.nat(120), fc.nat(255)), { maxLength: 6 }), (cut, changes) => {
      const damaged = coded.slice(0, Math.max(120, cut))
      for (const [at, value] of changes) damaged[at] = value
      try {
        const audio = readWave(damaged)
        for (const channel of audio.channels) expect(channel.every(value => Number.isFinite(value))).toBe(true)
      }
      catch (thrown) {
        expect(thrown).toBeInstanceOf(EmporionError)
      }
    }), { numRuns: 200 })
  })
})
