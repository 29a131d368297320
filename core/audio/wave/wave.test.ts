import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sine } from '../../../tests/helpers/audio'
import { EmporionError } from '../../errors'
import { checkShape } from '../limits'
import { readWave } from './read'
import { writeWave, type WaveDepth } from './write'

const text = (value: string) => [...value].map(letter => letter.charCodeAt(0))
const u16 = (value: number) => [value & 255, value >> 8 & 255]
const u32 = (value: number) => [...u16(value & 0xFFFF), ...u16(value >>> 16)]
const chunk = (id: string, body: readonly number[], size = body.length) => [...text(id), ...u32(size), ...body]
const fmt = (tag = 1, channels = 1, bits = 16, rate = 44_100) =>
  chunk('fmt ', [...u16(tag), ...u16(channels), ...u32(rate), ...u32(rate * channels * bits / 8), ...u16(channels * bits / 8), ...u16(bits)])
const riff = (...chunks: number[][]) => Uint8Array.from([...text('RIFF'), ...u32(4 + chunks.flat().length), ...text('WAVE'), ...chunks.flat()])

describe('reading WAVE', () => {
  it('takes 8 bit as unsigned and wider as signed (Multimedia Programming Interface 1.0)', () => {
    expect([...readWave(riff(fmt(1, 1, 8), chunk('data', [0, 128, 255]))).channels[0]!]).toEqual([-1, 0, 127 / 128])
    expect([...readWave(riff(fmt(1, 1, 16), chunk('data', [0, 128, 0, 0, 255, 127]))).channels[0]!]).toEqual([-1, 0, Math.fround(32767 / 32768)])
  })

  it('reads chunks that follow an odd one, with its pad byte and without', () => {
    const data = chunk('data', [0, 64, 0, 64])
    for (const pad of [[0], []]) {
      const file = riff(fmt(), [...chunk('junk', [1, 2, 3]), ...pad], data)
      expect(readWave(file).frames).toBe(2)
    }
  })

  it('mends a data size that is too large and says what is missing', () => {
    const audio = readWave(riff(fmt(), chunk('data', [0, 64, 0, 64], 2000)))
    expect(audio.frames).toBe(2)
    expect(audio.facts.warnings).toEqual(['The file is cut short: 2 of the 1000 frames that its header speaks of are there.'])
  })

  it('reads everything after a data size of 0, as an interrupted recorder leaves it', () => {
    const audio = readWave(riff(fmt(), chunk('data', [0, 64, 0, 192, 0, 0], 0)))
    expect([...audio.channels[0]!]).toEqual([0.5, -0.5, 0])
    expect(audio.facts.warnings).toHaveLength(1)
  })

  it('does not call cut short what lacks no whole frame', () => {
    expect(readWave(riff(fmt(), chunk('data', [0, 64, 0, 64], 5))).facts.warnings).toEqual([])
  })

  it('passes over junk behind the last chunk', () => {
    const file = Uint8Array.from([...riff(fmt(), chunk('data', [0, 64])), 1, 2, 3, 250, 99])
    expect(readWave(file).frames).toBe(1)
  })

  it('reads the root note, pitch fraction and loops of smpl, and texts and cues', () => {
    const embedded = {
      rootNote: 64, rootCents: 50, loops: [{ startFrame: 1, endFrame: 3, count: 0 }],
      cues: [{ id: 1, frame: 2 }], info: { INAM: 'Bell', ICMT: 'odd' },
    }
    const audio = readWave(writeWave([new Float32Array(5)], 48_000, { depth: 16, embedded }))
    expect(audio.facts.embedded).toEqual(embedded)
  })

  it('turns away other codecs by name and header nonsense with the figure', () => {
    expect(() => readWave(riff(fmt(0x31, 1, 4), chunk('data', [1, 2])))).toThrow(/GSM 6\.10 with 4 bits/)
    expect(() => readWave(riff(fmt(0x1234, 1, 4), chunk('data', [1, 2])))).toThrow(/WAVE format 4660 with 4 bits/)
    expect(() => readWave(riff(fmt(1, 900), chunk('data', new Array<number>(1800).fill(0))))).toThrow(/900 channels/)
    expect(() => readWave(riff(fmt(1, 1, 16, 7), chunk('data', [0, 0])))).toThrow(/7 Hz/)
    expect(() => checkShape({ channelCount: 2, sampleRate: 44_100, frames: 200_000_000 })).toThrow(/400 million samples; up to 256 million/)
    expect(() => readWave(riff(fmt(), chunk('data', [])))).toThrow(/no audio/)
    expect(() => readWave(riff(chunk('data', [0, 0])))).toThrow(/no format chunk/)
  })
})

describe('writing and reading back', () => {
  const depths: WaveDepth[] = [8, 16, 24, 32, 'float']

  it('gives back the same samples at every depth, within half a step', () => {
    fc.assert(fc.property(
      fc.constantFrom(...depths), fc.integer({ min: 1, max: 4 }),
      fc.array(fc.float({ min: -1, max: 1, noNaN: true }), { minLength: 1, maxLength: 40 }),
      (depth, channelCount, values) => {
        const channels = Array.from({ length: channelCount }, (_, c) => Float32Array.from(values, value => c % 2 ? -value : value))
        const audio = readWave(writeWave(channels, 44_100, { depth }))
        const step = depth === 'float' ? 0 : 2 ** (1 - depth)
        expect(audio.channels.length).toBe(channelCount)
        channels.forEach((channel, c) => channel.forEach((value, i) => {
          // Full scale positive is one step below 1 in integers.
          expect(Math.abs(audio.channels[c]![i]! - Math.min(value, 1 - step))).toBeLessThanOrEqual(step / 2 + 1e-7)
        }))
      }))
  })

  it('holds what is over full scale and never wraps', () => {
    const audio = readWave(writeWave([Float32Array.from([1.5, -1.5])], 44_100, { depth: 16 }))
    expect([...audio.channels[0]!]).toEqual([Math.fround(32767 / 32768), -1])
  })
})

describe('hostile bytes', () => {
  const whole = writeWave([sine(440, 44_100, 60)], 44_100, { depth: 24, embedded: { rootNote: 60, info: { INAM: 'x' }, cues: [{ id: 1, frame: 3 }] } })

  it('ends every truncation in audio or in an error with a reason', () => {
    for (let length = 0; length < whole.length; length++) onlyNamedErrors(whole.slice(0, length))
  })

  it('ends every damaged file in audio or in an error with a reason', () => {
    fc.assert(fc.property(fc.array(fc.tuple(fc.nat(whole.length - 1), fc.nat(255)), { maxLength: 12 }), (changes) => {
      const damaged = whole.slice()
      for (const [at, value] of changes) damaged[at] = value
      onlyNamedErrors(damaged)
    }), { numRuns: 500 })
  })

  it('ends random bytes behind a WAVE head in audio or in an error with a reason', () => {
    fc.assert(fc.property(fc.uint8Array({ maxLength: 300 }), (bytes) => {
      onlyNamedErrors(Uint8Array.from([...text('RIFF'), 255, 255, 255, 255, ...text('WAVE'), ...bytes]))
    }))
  })
})

function onlyNamedErrors(bytes: Uint8Array): void {
  try {
    const audio = readWave(bytes)
    expect(audio.channels.every(channel => channel.length === audio.frames && channel.every(Number.isFinite))).toBe(true)
    expect(audio.frames * audio.channels.length).toBeLessThanOrEqual(bytes.length)
  }
  catch (thrown) {
    expect(thrown).toBeInstanceOf(EmporionError)
  }
}
