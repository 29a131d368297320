import { execFileSync } from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { sine } from '../../tests/helpers/audio'
import { freshFolder } from '../../tests/helpers/folder'
import { decodeAudio } from './decode'
import { writeWave } from './wave/write'

/** No whole number of packets of 64. */
const FRAMES = 7321
const PADDED = Math.ceil(FRAMES / 64) * 64
const channels = [sine(180, 22_050, FRAMES, 0.9).map((value, i) => value * Math.exp(-i / 900)), sine(5000, 22_050, FRAMES, 0.5)]

/** A file as FFmpeg (Debian) codes it, and what FFmpeg reads from it, in 16 bits. */
function byFfmpeg(extension: string, channelCount: number): { readonly coded: Uint8Array, readonly decoded: Int16Array } {
  const folder = freshFolder()
  const [plain, coded] = ['plain.wav', `coded.${extension}`].map(name => join(folder, name)) as [string, string]
  writeFileSync(plain, writeWave(channels.slice(0, channelCount), 22_050, { depth: 16 }))
  execFileSync('ffmpeg', ['-v', 'error', '-i', plain, '-c:a', 'adpcm_ima_qt', coded])
  const raw = execFileSync('ffmpeg', ['-v', 'error', '-i', coded, '-f', 's16le', '-'])
  return { coded: readFileSync(coded), decoded: new Int16Array(Uint8Array.from(raw).buffer) }
}

describe.each(['aif', 'caf'])('ima4 in a .%s', (extension) => {
  it.each([1, 2])('of %i channels is read to the sample as FFmpeg reads it', async (channelCount) => {
    const { coded, decoded } = byFfmpeg(extension, channelCount)
    const audio = await decodeAudio(coded)
    expect(audio.facts).toMatchObject({ codec: 'IMA ADPCM', bitDepth: 0, warnings: [] })
    expect([FRAMES, PADDED]).toContain(audio.frames)
    const read = Array.from({ length: audio.frames * channelCount }, (_, i) => audio.channels[i % channelCount]![Math.floor(i / channelCount)]! * 0x8000)
    expect(read).toEqual([...decoded.subarray(0, read.length)])
  })

  it('cut short is read as far as whole packets go, and says so', async () => {
    const { coded } = byFfmpeg(extension, 2)
    const audio = await decodeAudio(coded.subarray(0, 4000))
    expect(audio.frames % 64).toBe(0)
    expect(audio.frames).toBeGreaterThan(3000)
    expect(audio.facts.warnings[0]).toMatch(/^The file is cut short: /)
  })
})
