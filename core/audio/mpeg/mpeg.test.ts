import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { freshFolder, put } from '../../../tests/helpers/folder'
import { decodeAudio } from '../decode'
import { formerForms } from '../formerForms'
import { mpegHeader } from './header'

const folder = freshFolder()
const tone = (name: string, channels: number, ...effects: string[]) => {
  const path = join(folder, `${name}.wav`)
  execFileSync('sox', ['-n', '-r', '44100', '-b', '16', '-c', String(channels), path, 'synth', '0.4', 'sine', '440', ...channels === 2 ? ['sine', '660'] : [], 'vol', '0.5', ...effects])
  return path
}
const encoded = (wave: string, ...options: string[]) => {
  execFileSync('lame', ['--quiet', ...options, wave, `${wave}.mp3`])
  return readFileSync(`${wave}.mp3`)
}

describe('MPEG audio', () => {
  it('has as many channels as the header of its stream states, as mpg123 (outside reference) reads it', async () => {
    for (const [name, channels, options] of [['mono', 1, []], ['stereo', 2, []], ['joint', 2, ['-m', 'j']], ['mono of a mix', 2, ['-m', 'm']]] as const) {
      const bytes = encoded(tone(name, channels), ...options)
      const path = put(folder, `${name}.mp3`, bytes)
      const output = execFileSync('mpg123', ['--test', '--verbose', path], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'] })
      const stated = /Channels?: (\d)/.exec(output) ?? /, (?:single-ch|mono)/i.exec(output)
      const { channels: read } = await decodeAudio(bytes)
      expect(read).toHaveLength(name.startsWith('mono') ? 1 : 2)
      if (stated?.[1]) expect(read).toHaveLength(Number(stated[1]))
      // By the bits of the header itself (ISO/IEC 11172-3, 2.4.2.3): mode 3 is one channel.
      const first = bytes.indexOf(0xFF)
      expect(bytes[first + 3]! >> 6 === 3).toBe(read.length === 1)
    }
  })

  it('of one channel was read as two before: its former form is that', async () => {
    const audio = await decodeAudio(encoded(tone('former', 1)))
    const [form] = formerForms(audio)
    expect(form!.channels).toEqual([audio.channels[0], audio.channels[0]])
    expect(formerForms(await decodeAudio(encoded(tone('two', 2))))).toEqual([])
  })

  it('is found behind silence, junk and tags, and is then the same', async () => {
    const bytes = encoded(tone('plain', 1), '-t')
    const plain = await decodeAudio(bytes)
    const tag = Buffer.from([0x49, 0x44, 0x33, 4, 0, 0, 0, 0, 1, 0, ...Buffer.alloc(128)])
    for (const before of [Buffer.alloc(1000), Buffer.from('some words, and \xFF\xFB\x90 that look like a frame', 'latin1'), tag, Buffer.concat([tag, Buffer.alloc(333)])]) {
      const found = await decodeAudio(Buffer.concat([before, bytes]))
      expect(found.channels.map(channel => channel.length)).toEqual(plain.channels.map(channel => channel.length))
      expect(found.channels[0]!.every((value, i) => value === plain.channels[0]![i])).toBe(true)
    }
  })

  it('of layer 2 is read, as ffmpeg (outside reference) decodes it; layer 1 is declined in plain words', async () => {
    const wave = tone('layer two', 2)
    execFileSync('ffmpeg', ['-y', '-loglevel', 'error', '-i', wave, '-c:a', 'mp2', join(folder, 'two.mp2')])
    const bytes = readFileSync(join(folder, 'two.mp2'))
    const audio = await decodeAudio(bytes)
    expect(audio.facts).toMatchObject({ container: 'MPEG', codec: 'MPEG layer 2', warnings: [] })
    const raw = execFileSync('ffmpeg', ['-loglevel', 'error', '-i', join(folder, 'two.mp2'), '-f', 'f32le', '-'])
    const expected = new Float32Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.length))
    expect(audio.frames).toBe(expected.length / 2)
    let farthest = 0
    for (let i = 0; i < audio.frames; i++) farthest = Math.max(farthest, Math.abs(audio.channels[0]![i]! - expected[2 * i]!))
    expect(farthest).toBeLessThan(1e-4)
    // Layer 1 at 384 kbit/s and 44.1 kHz: 12 x 384,000 / 44,100 slots of 4 bytes (ISO/IEC 11172-3, 2.4.3.1).
    const frame = Buffer.alloc(Math.floor(12 * 384_000 / 44_100) * 4)
    frame.set([0xFF, 0xFF, 0xC0, 0x00])
    expect(mpegHeader(frame, 0)).toEqual({ layer: 1, sampleRate: 44_100, isMono: false, bytes: frame.length })
    await expect(decodeAudio(Buffer.concat(Array.from({ length: 6 }, () => frame)))).rejects.toThrow('This is MPEG audio of layer 1, which is not read. Convert it to WAVE or FLAC first.')
  })

  it('noise is not taken for it', async () => {
    const noise = Uint8Array.from({ length: 300_000 }, (_, i) => Math.imul(i ^ 0x5BD1E995, 0x85EBCA6B) >>> 24)
    noise[0] = 0x11
    await expect(decodeAudio(noise)).rejects.toThrow('no audio that Emporion knows')
  })
})
