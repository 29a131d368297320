import { createHash } from 'node:crypto'
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { writeAiff } from '../../demo/packs/aiff'
import { sine } from '../../tests/helpers/audio'
import { EmporionError } from '../errors'
import { decodeAudio } from './decode'
import type { DecodedAudio } from './decoded'
import { identityBytes } from './identity'
import { readTags } from './tags'
import { writeWave } from './wave/write'

const channels = [sine(440, 44_100, 8000, 0.8), sine(555, 44_100, 8000, 0.4)]

function identity(audio: DecodedAudio): string {
  const hash = createHash('sha256')
  for (const piece of identityBytes(audio)) hash.update(piece)
  return hash.digest('hex')
}

/** Encodes by Debian's `flac` and `sox`, as others make files. */
function encoded(extension: string, depth: 16 | 24): Uint8Array {
  const folder = mkdtempSync(join(tmpdir(), 'emporion-'))
  const wav = join(folder, 'a.wav')
  const out = join(folder, `a.${extension}`)
  writeFileSync(wav, writeWave(channels, 44_100, { depth }))
  if (extension === 'flac') execFileSync('flac', ['--silent', '--force', '-o', out, wav])
  else execFileSync('sox', [wav, out])
  return readFileSync(out)
}

describe('identity of decoded audio', () => {
  it('is one for WAVE, AIFF, FLAC, CAF, AU and Wave64 of the same samples', async () => {
    for (const depth of [16, 24] as const) {
      const wave = identity(await decodeAudio(writeWave(channels, 44_100, { depth })))
      expect(identity(await decodeAudio(writeAiff(channels, 44_100, depth)))).toBe(wave)
      for (const extension of ['flac', 'caf', 'au', 'w64']) expect(identity(await decodeAudio(encoded(extension, depth)))).toBe(wave)
    }
  })

  it('differs for another rate, channel order or sample, and not for the sign of zero', async () => {
    const audio = await decodeAudio(writeWave(channels, 44_100, { depth: 'float' }))
    const own = identity(audio)
    expect(identity({ ...audio, sampleRate: 48_000 })).not.toBe(own)
    expect(identity({ ...audio, channels: audio.channels.toReversed() })).not.toBe(own)
    const zero = (sign: number) => ({ ...audio, channels: [new Float32Array(4).fill(0 * sign)], frames: 4 })
    expect(identity(zero(-1))).toBe(identity(zero(1)))
  })
})

describe('decoding by what the bytes are', () => {
  it('reads Ogg Vorbis made by another program, with length and level', async () => {
    const audio = await decodeAudio(encoded('ogg', 16))
    expect(audio.facts.container).toBe('Ogg')
    expect(audio.frames).toBe(8000)
    expect(Math.max(...audio.channels[0]!)).toBeCloseTo(0.8, 1)
  })

  it('finds what lies behind an ID3 tag that was put before it (ID3v2.4.0, 3.1), and the tag with it', async () => {
    const tag = Uint8Array.from([...Buffer.from('ID3'), 4, 0, 0, 0, 0, 1, 2, ...Buffer.from('TBPM'), 0, 0, 0, 4, 0, 0, 3, ...Buffer.from('118'), ...new Uint8Array(116)])
    for (const file of [writeWave(channels, 44_100, { depth: 16 }), writeAiff(channels, 44_100, 16), encoded('flac', 16), encoded('ogg', 16)]) {
      const plain = await decodeAudio(file)
      const audio = await decodeAudio(Buffer.concat([tag, file]))
      expect(audio.facts).toEqual(plain.facts)
      expect(identity(audio)).toBe(identity(plain))
      expect((await readTags(Buffer.concat([tag, file])))?.bpm).toBe(118)
    }
  })

  it('names what MPEG-4 files and CAF files with their codings hold, made by FFmpeg, and what to do', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'emporion-'))
    const wav = join(folder, 'a.wav')
    writeFileSync(wav, writeWave(channels, 44_100, { depth: 16 }))
    const made = (name: string, coding: string) => {
      execFileSync('ffmpeg', ['-v', 'error', '-y', '-i', wav, '-c:a', coding, join(folder, name)])
      return readFileSync(join(folder, name))
    }
    const next = 'Convert it to WAVE or FLAC first.'
    await expect(decodeAudio(made('a.m4a', 'alac'))).rejects.toMatchObject({ code: 'unsupported', message: `This is an MPEG-4 file (AAC or Apple Lossless), which Emporion does not read. ${next}` })
    await expect(decodeAudio(made('b.m4a', 'aac'))).rejects.toMatchObject({ code: 'unsupported' })
    await expect(decodeAudio(made('a.caf', 'alac'))).rejects.toMatchObject({ code: 'unsupported', message: `The CAF file holds Apple Lossless, which Emporion does not read. ${next}` })
  })

  it('says of an empty file, of text and of a compressed head without audio why they are not read', async () => {
    await expect(decodeAudio(new Uint8Array())).rejects.toThrow('The file is empty.')
    await expect(decodeAudio(new TextEncoder().encode('Sorry, no audio here.'))).rejects.toThrow(/no audio that Emporion knows/)
    await expect(decodeAudio(new TextEncoder().encode('fLaC and nothing else'))).rejects.toThrow(EmporionError)
    await expect(decodeAudio(new TextEncoder().encode('OggS and nothing else'))).rejects.toThrow(EmporionError)
  })

  it('ends truncated, damaged and random compressed files in audio or in an error with a reason', async () => {
    const flac = encoded('flac', 16)
    const ogg = encoded('ogg', 16)
    await fc.assert(fc.asyncProperty(fc.constantFrom(flac, ogg), fc.nat(), fc.array(fc.tuple(fc.nat(), fc.nat(255)), { maxLength: 6 }), async (whole, cut, changes) => {
      const damaged = whole.slice(0, cut % whole.length)
      for (const [at, value] of changes) if (damaged.length > 0) damaged[at % damaged.length] = value
      await decodeAudio(damaged).catch(thrown => expect(thrown).toBeInstanceOf(EmporionError))
    }), { numRuns: 60 })
    await fc.assert(fc.asyncProperty(fc.uint8Array({ maxLength: 2000 }), async (bytes) => {
      await decodeAudio(bytes).catch(thrown => expect(thrown).toBeInstanceOf(EmporionError))
    }), { numRuns: 300 })
  })
})

describe('MP3', () => {
  it('made by another program is read with its length and level, without the encoder\'s padding', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'emporion-'))
    writeFileSync(join(folder, 'a.wav'), writeWave(channels, 44_100, { depth: 16 }))
    execFileSync('lame', ['--quiet', '-b', '192', join(folder, 'a.wav'), join(folder, 'a.mp3')])
    const audio = await decodeAudio(readFileSync(join(folder, 'a.mp3')))
    expect(audio.facts.container).toBe('MP3')
    expect(audio.channels.length).toBe(2)
    expect(audio.frames).toBe(8000)
    expect(Math.max(...audio.channels[0]!)).toBeCloseTo(0.8, 1)
  })

  it('is read where a WAVE file carries it in place of samples (format 0x0055), with what is written beside it', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'emporion-'))
    writeFileSync(join(folder, 'a.wav'), writeWave(channels, 44_100, { depth: 16 }))
    execFileSync('lame', ['--quiet', '-b', '192', join(folder, 'a.wav'), join(folder, 'a.mp3')])
    const stream = readFileSync(join(folder, 'a.mp3'))
    const u16 = (value: number) => [value & 255, value >> 8 & 255]
    const chunk = (id: string, body: Uint8Array) => Buffer.concat([Buffer.from(id), Buffer.from(new Uint32Array([body.length]).buffer), body, new Uint8Array(body.length % 2)])
    // MPEGLAYER3WAVEFORMAT (mmreg.h, from memory): 12 bytes beyond WAVEFORMATEX; no bits a sample.
    const format = Uint8Array.from([...u16(0x55), ...u16(2), ...u16(44_100), 0, 0, ...u16(24_000), 0, 0, 1, 0, 0, 0, 12, 0, 1, 0, 2, 0, 0, 0, ...u16(417), 1, 0, 0x71, 5])
    const embedded = writeWave([new Float32Array(1)], 44_100, { depth: 16, embedded: { rootNote: 57, loops: [], cues: [] } })
    const smpl = embedded.slice(Buffer.from(embedded).indexOf('smpl'))
    const body = Buffer.concat([Buffer.from('WAVE'), chunk('fmt ', format), chunk('data', stream), smpl])
    const audio = await decodeAudio(Buffer.concat([Buffer.from('RIFF'), Buffer.from(new Uint32Array([body.length]).buffer), body]))
    const alone = await decodeAudio(stream)
    expect(audio.facts).toMatchObject({ container: 'WAVE', codec: 'MP3', bitDepth: 0, embedded: { rootNote: 57 } })
    expect(identity(audio)).toBe(identity(alone))
    expect(audio.frames).toBe(8000)
    await expect(decodeAudio(Buffer.concat([Buffer.from('RIFF'), Buffer.from(new Uint32Array([body.length]).buffer), body.subarray(0, 60)]))).rejects.toThrow(/could be decoded/)
  })
})
