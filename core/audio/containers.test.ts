import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sine } from '../../tests/helpers/audio'
import { EmporionError } from '../errors'
import { readAu } from './au/read'
import { readCaf } from './caf/read'
import { decodeAudio } from './decode'
import { readWave64 } from './wave64/read'
import { readWave } from './wave/read'
import { writeWave } from './wave/write'

const text = (value: string) => [...value].map(letter => letter.charCodeAt(0))
const be32 = (value: number) => [value >>> 24, value >> 16 & 255, value >> 8 & 255, value & 255]
const be64 = (value: number) => [...be32(Math.floor(value / 2 ** 32)), ...be32(value % 2 ** 32)]
const f32 = (value: number) => [...new Uint8Array(Float32Array.of(value).buffer)].reverse()
const f64 = (value: number) => [...new Uint8Array(Float64Array.of(value).buffer)].reverse()

const channels = [sine(440, 48_000, 1000, 0.7), sine(220, 48_000, 1000, 0.3)]
const CODINGS = {
  'signed 8': ['-b', '8', '-e', 'signed'], 'signed 16': ['-b', '16', '-e', 'signed'], 'signed 24': ['-b', '24', '-e', 'signed'], 'signed 32': ['-b', '32', '-e', 'signed'],
  'float 32': ['-b', '32', '-e', 'float'], 'float 64': ['-b', '64', '-e', 'float'], 'A-law': ['-e', 'a-law'], 'mu-law': ['-e', 'u-law'],
} as const

/** The same audio by Debian's `sox`, in a container and, to hold it against, as WAVE. */
function bySox(extension: string, coding: keyof typeof CODINGS, options: readonly string[] = []): { bytes: Uint8Array, wave: Uint8Array } {
  const folder = mkdtempSync(join(tmpdir(), 'emporion-'))
  const paths = ['source.wav', `a.${extension}`, 'b.wav'].map(name => join(folder, name))
  const [source, out, wave] = paths as [string, string, string]
  writeFileSync(source, writeWave(channels, 48_000, { depth: 'float' }))
  execFileSync('sox', ['-D', source, ...options, ...CODINGS[coding], out])
  execFileSync('sox', ['-D', out, '-b', '32', '-e', 'float', wave])
  return { bytes: readFileSync(out), wave: readFileSync(wave) }
}

describe.each([
  ['AU', 'au', ['signed 8', 'signed 16', 'signed 24', 'signed 32', 'float 32', 'float 64', 'A-law', 'mu-law']],
  // What sox writes there as floats of 64 bits are whole numbers.
  ['CAF', 'caf', ['signed 8', 'signed 16', 'signed 24', 'signed 32', 'float 32', 'A-law', 'mu-law']],
  ['Wave64', 'w64', ['signed 16', 'signed 24', 'signed 32', 'float 32', 'A-law', 'mu-law']],
] as const)('%s', (container, extension, codings) => {
  it.each(codings)('%s holds the samples that sox wrote to it', async (coding) => {
    const { bytes, wave } = bySox(extension, coding)
    const audio = await decodeAudio(bytes)
    expect(audio).toMatchObject({ sampleRate: 48_000, frames: 1000, facts: { container, warnings: [] } })
    // Floats are written as they were; what sox reads of them is scaled anew.
    const expected = coding === 'float 32' ? channels : readWave(wave).channels
    audio.channels.forEach((channel, i) => channel.forEach((sample, frame) => expect(Math.abs(sample - expected[i]![frame]!)).toBeLessThan(2 ** -23)))
  })

  it('ends in audio that is told to be cut short where its end is missing, and in audio or a reason whatever is damaged', () => {
    const { bytes } = bySox(extension, 'signed 16')
    const read = { AU: readAu, CAF: readCaf, Wave64: readWave64 }[container]
    const cut = read(bytes.slice(0, -400))
    expect(cut.frames).toBe(900)
    expect(cut.facts.warnings[0]).toMatch(/900 of the 1000 frames/)
    // Where a file has its header, which damage does most in.
    const place = fc.oneof(fc.nat(127), fc.nat(bytes.length - 1))
    fc.assert(fc.property(fc.nat(bytes.length), fc.array(fc.tuple(place, fc.nat(255)), { maxLength: 10 }), (length, changes) => {
      const damaged = bytes.slice(0, length)
      for (const [at, value] of changes) if (at < length) damaged[at] = value
      try {
        const audio = read(damaged)
        expect(audio.channels.every(channel => channel.length === audio.frames)).toBe(true)
      }
      catch (thrown) {
        expect(thrown).toBeInstanceOf(EmporionError)
      }
    }), { numRuns: 500 })
  })
})

// Source: Apple, Core Audio Format Specification 1.0: chunk layouts, from memory.
describe('what a CAF says of itself', () => {
  const chunk = (id: string, body: readonly number[], size = body.length) => [...text(id), ...be64(size), ...body]
  const desc = (codec: string, flags: number, bits: number, packetBytes: number) => chunk('desc', [...f64(44_100), ...text(codec), ...be32(flags), ...be32(packetBytes), ...be32(1), ...be32(1), ...be32(bits)])
  const caf = (...chunks: readonly (readonly number[])[]) => Uint8Array.from([...text('caff'), 0, 1, 0, 0, ...chunks.flat()])
  const data = chunk('data', [0, 0, 0, 0, 0x40, 0x00, 0xC0, 0x00])

  it('is read: its note, gain and ranges, its markers, its tempo, key and texts', () => {
    const inst = chunk('inst', [...f32(38.25), 36, 40, 1, 127, ...f32(-3), ...be32(0), ...be32(0), ...be32(0), ...be32(0)])
    const mark = chunk('mark', [...be32(0), ...be32(1), ...be32(0), ...f64(1), ...be32(7), ...be64(0), ...be32(0)])
    const info = chunk('info', [...be32(3), ...['tempo', '128', 'key signature', 'Am', 'comments', 'from the mole'].flatMap(part => [...text(part), 0])])
    expect(readCaf(caf(desc('lpcm', 0, 16, 2), inst, mark, info, data)).facts.embedded).toEqual({
      rootNote: 38, rootCents: 25, lowNote: 36, highNote: 40, lowVelocity: 1, highVelocity: 127, gainDb: -3,
      cues: [{ id: 7, frame: 1 }], tags: { texts: { comment: 'from the mole' }, bpm: 128, key: 'Am' },
    })
  })

  it('holds floats of both sizes, in either byte order', () => {
    const held = (flags: number, bits: number, samples: readonly number[]) => [...readCaf(caf(desc('lpcm', flags, bits, bits / 8), chunk('data', [0, 0, 0, 0, ...samples]))).channels[0]!]
    expect(held(1, 32, f32(0.25))).toEqual([0.25])
    expect(held(3, 32, f32(-0.25).reverse())).toEqual([-0.25])
    expect(held(1, 64, f64(0.75))).toEqual([0.75])
    expect(held(3, 64, f64(-0.75).reverse())).toEqual([-0.75])
    expect(held(2, 16, [0x00, 0x40])).toEqual([0.5])
  })

  it('may leave the size of its data open: it goes on to the end', () => {
    const open = [...text('data'), ...be32(0xFFFFFFFF), ...be32(0xFFFFFFFF), 0, 0, 0, 0, 0x40, 0x00, 0xC0, 0x00]
    const audio = readCaf(caf(desc('lpcm', 0, 16, 2), open))
    expect([...audio.channels[0]!]).toEqual([0.5, -0.5])
    expect(audio.facts.warnings).toEqual([])
  })

  it('names a coding that is not read', () => {
    expect(() => readCaf(caf(desc('aac ', 0, 0, 0), data))).toThrow('The CAF file holds AAC')
    expect(() => readCaf(caf(desc('lpcm', 0, 24, 4), data))).toThrow(/24 bits in packets of 4 bytes/)
    expect(() => readCaf(caf(desc('lpcm', 0, 16, 2)))).toThrow(/no data chunk/)
    expect(() => readCaf(caf(data))).toThrow(/no description chunk/)
  })
})

describe('what an AU says of itself', () => {
  const au = (code: number, size: number, note: readonly number[] = []) => Uint8Array.from([...text('.snd'), ...be32(24 + note.length), ...be32(size), ...be32(code), ...be32(44_100), ...be32(1), ...note, 0x40, 0x00, 0xC0, 0x00])

  it('is its note; a size that was not known when it was begun goes on to the end', () => {
    const audio = readAu(au(3, 0xFFFFFFFF, [...text('quay'), 0, 0, 0, 0]))
    expect([...audio.channels[0]!]).toEqual([0.5, -0.5])
    expect(audio.facts).toMatchObject({ embedded: { info: { ANNO: 'quay' } }, warnings: [] })
  })

  it('names a coding that is not read', () => {
    expect(() => readAu(au(23, 4))).toThrow(/way 23/)
  })
})
