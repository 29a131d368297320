import { spawnSync } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { allPacks } from '../../../demo/packs/packs'
import { SYNTH_RATE, Random } from '../../../demo/synth/dsp'
import { INSTRUMENTS, type Instrument } from '../../../demo/packs/instruments'
import { sine } from '../../../tests/helpers/audio'
import { decodeAudio } from '../decode'
import { fromDb, toDb } from '../level'
import { writeWave } from '../wave/write'
import { brightness, colourOf } from './colour'
import { figuresOf, type Figures } from './figures'
import { heardOf } from './heard'
import { isSurePitch } from './surePitch'

const RATE = 44_100
const packs = allPacks(9)

async function demo(path: string): Promise<Figures> {
  const audio = await decodeAudio(packs.find(file => file.path.endsWith(path))!.make())
  return figuresOf(audio.channels, audio.sampleRate)
}

const struck = (instrument: Instrument, seed = 5) => INSTRUMENTS[instrument](new Random(seed), 0.8)

/** A train of hits at known times. */
function train(instrument: Instrument, times: readonly number[], seconds: number): Float32Array {
  const out = new Float32Array(Math.round(seconds * SYNTH_RATE))
  times.forEach((time, i) => {
    struck(instrument, 40 + i).forEach((value, frame) => {
      const at = Math.round(time * SYNTH_RATE) + frame
      if (at < out.length) out[at]! += value * 0.3
    })
  })
  return out
}

/** A tone that dies away in noise of so many dBFS RMS. Even noise within +-1 has an RMS of the square root of a third. */
function inNoise(noiseDb: number, t60: number, seconds: number, seed: number): Float32Array {
  const random = new Random(seed)
  const noise = fromDb(noiseDb) * Math.sqrt(3)
  return Float32Array.from({ length: seconds * RATE }, (_, i) => 0.8 * 10 ** (-3 * i / RATE / t60) * Math.sin(i * 0.05) + noise * random.noise())
}

describe('timing', () => {
  it('measures lead, attack, effective length, tail and decay of a made sound', () => {
    const t60 = 0.6
    const channel = new Float32Array(RATE * 2)
    for (let i = 0; i < RATE * 1.5; i++) {
      const t = i / RATE
      channel[i + RATE / 4] = 0.8 * Math.min(1, t / 0.02) * Math.exp(-6.908 * t / t60) * Math.sin(2 * Math.PI * 300 * t)
    }
    const { timing } = figuresOf([channel], RATE)
    expect(timing!.leadSeconds).toBeCloseTo(0.25, 2)
    expect(timing!.attackSeconds).toBeGreaterThan(0.012)
    expect(timing!.attackSeconds).toBeLessThan(0.024)
    expect(timing!.effectiveSeconds).toBeCloseTo(t60, 1)
    expect(timing!.tailSeconds).toBeCloseTo(2 - 0.25 - timing!.effectiveSeconds, 2)
    expect(timing!.decaySeconds!).toBeGreaterThan(t60 * 0.93)
    expect(timing!.decaySeconds!).toBeLessThan(t60 * 1.07)
    expect(timing!.noiseFloorDb).toBeNull()
  })

  it.each([
    ['a recording that goes on in it for long', { min: 0.3, max: 1.5 }, (t60: number) => t60 + 0.6],
    ['a brief one that is cut soon', { min: 0.1, max: 0.25 }, () => 0.45],
  ])('ends a sound where it is no louder than the noise of its recording, whose level is given: %s (as mixed)', (_, between, length) => {
    fc.assert(fc.property(fc.double({ min: -60, max: -45, noNaN: true }), fc.double({ ...between, noNaN: true }), fc.integer({ min: 1, max: 1e6 }), (noiseDb, t60, seed) => {
      const { timing, hits } = figuresOf([inNoise(noiseDb, t60, length(t60), seed)], RATE)
      expect(hits.at(-1)!.endSeconds).toBe(timing!.leadSeconds + timing!.effectiveSeconds)
      expect(timing!.noiseFloorDb!).toBeCloseTo(noiseDb, 0)
      expect(Math.abs(timing!.effectiveSeconds - (toDb(0.8 / Math.SQRT2) - noiseDb) / 60 * t60)).toBeLessThan(0.04)
      expect(Math.abs(timing!.decaySeconds! / t60 - 1)).toBeLessThan(0.06)
      expect(timing!.leadSeconds + timing!.effectiveSeconds + timing!.tailSeconds).toBeCloseTo(length(t60), 3)
    }), { numRuns: 30 })
  })
})

describe('noise far below', () => {
  it('does not lengthen a sound that is 60 dB below its peak before it, however brief the file', () => {
    fc.assert(fc.property(fc.double({ min: -100, max: -80, noNaN: true }), fc.double({ min: 0.1, max: 0.25, noNaN: true }), fc.constantFrom(0.45, 1.2), (noiseDb, t60, seconds) => {
      expect(Math.abs(figuresOf([inNoise(noiseDb, t60, seconds, 5)], RATE).timing!.effectiveSeconds - t60)).toBeLessThan(0.015)
    }), { numRuns: 30 })
  })
})

describe('decay', () => {
  const dying = (t60: number, hz: number, seconds: number) => Float32Array.from({ length: seconds * RATE }, (_, i) => 0.8 * 10 ** (-3 * i / RATE / t60) * Math.sin(2 * Math.PI * hz * i / RATE))

  it('of a sound that was cut off is that of the whole one, by arithmetic', () => {
    fc.assert(fc.property(fc.double({ min: 0.4, max: 3, noNaN: true }), fc.double({ min: 200, max: 3000, noNaN: true }), fc.double({ min: 0.35, max: 1.2, noNaN: true }), (t60, hz, part) => {
      const { decaySeconds } = figuresOf([dying(t60, hz, t60 * part)], RATE).timing!
      expect(Math.abs(decaySeconds! / t60 - 1)).toBeLessThan(0.02)
    }), { numRuns: 60, examples: [[0.8262383068806145, 233.05179417689249, 0.4202309206221674]] })
  })

  it('is not told of a tone that is held, that swells, or that fell by 10 dB when it was cut off', () => {
    expect(figuresOf([sine(220, RATE, RATE, 0.5)], RATE).timing!.decaySeconds).toBeNull()
    expect(figuresOf([sine(220, RATE, RATE, 0.5).map((value, i) => value * i / RATE)], RATE).timing!.decaySeconds).toBeNull()
    expect(figuresOf([dying(1.2, 220, 0.2)], RATE).timing!.decaySeconds).toBeNull()
  })
})

describe('hits', () => {
  const times = [0.1, 0.35, 0.6, 0.725, 0.85, 1.35]

  it.each(['kickShort', 'snare', 'rim', 'closedHat', 'tomHigh', 'woodBlock', 'bongo'] as const)('a train of %s is found within 5 ms (times as synthesised)', (instrument) => {
    const { hits } = figuresOf([train(instrument, times, 2)], SYNTH_RATE)
    expect(hits.length).toBe(times.length)
    hits.forEach((hit, i) => expect(Math.abs(hit.startSeconds - times[i]!)).toBeLessThan(0.005))
    expect(hits[0]!.endSeconds).toBe(hits[1]!.startSeconds)
  })

  it.each(Object.keys(INSTRUMENTS).filter(name => !['shaker', 'maracas', 'tambourine', 'scraper', 'ratchet', 'chain', 'gull', 'wave', 'horn'].includes(name)) as Instrument[])('one %s is one hit', (instrument) => {
    for (const seed of [1, 2, 3]) expect(figuresOf([struck(instrument, seed)], SYNTH_RATE).hits.length).toBe(1)
  })

  it.each([
    ['Gangway', 122, 'x.x.x.x.x.x.x.x.', 5],
    ['Winch', 108, 'x.xxx.x.x.x.x.x.', 5],
    ['Bilge Pump', 96, 'x.x.x.x.x.x.x.xx', 5],
    // Its maracas swell for some milliseconds.
    ['Sleeping Deck', 74, 'x.x.x.x.x.x.x.x.', 7],
  ])('the demo loop %s at %i BPM is all its steps, two bars of %s, each within %i ms', async (name, bpm, bar, within) => {
    const { hits, flags } = await demo(`${name} ${bpm}bpm.wav`)
    const step = 60 / bpm / 4
    const found = hits.map(hit => Math.round(hit.startSeconds / step))
    expect(flags).toContain('loop')
    expect(found).toEqual([...bar + bar].flatMap((mark, i) => mark === 'x' ? [i] : []))
    hits.forEach((hit, i) => expect(Math.abs(hit.startSeconds - found[i]! * step) * 1000).toBeLessThan(within))
  })
})

describe('colour', () => {
  it('a tone lies where it is and is no noise; white noise lies in the middle and is', () => {
    const tone = colourOf(heardOf(sine(1000, RATE, RATE), RATE, 0, 1), 0, 1)!
    expect(tone.centroidHz).toBeCloseTo(1000, -1.5)
    expect(tone.noisiness).toBeLessThan(0.1)
    expect(tone.mid).toBeGreaterThan(0.99)
    const random = new Random(1)
    const noise = colourOf(heardOf(Float32Array.from({ length: RATE }, () => random.noise()), RATE, 0, 1), 0, 1)!
    expect(noise.centroidHz).toBeGreaterThan(RATE / 4 * 0.95)
    expect(noise.centroidHz).toBeLessThan(RATE / 4 * 1.05)
    expect(noise.rolloffHz).toBeGreaterThan(0.8 * RATE / 2)
    expect(noise.noisiness).toBeGreaterThan(0.9)
  })

  it('brightness rises by equal steps for equal intervals, from 0 to 100', () => {
    expect([40, 80, 12_000, 20_000].map(brightness)).toEqual([0, 0, 100, 100])
    expect(brightness(800) - brightness(400)).toBeCloseTo(brightness(3200) - brightness(1600), -0.5)
  })

  it('orders the demo as a person would: kick, tom, snare, hat', async () => {
    const [kick, tom, snare, hat] = await Promise.all(['HBR_BD_001.WAV', 'HBR_HT_001.WAV', 'HBR_SD_001.WAV', 'HBR_CHH_001.WAV'].map(demo))
    expect(kick!.brightness!).toBeLessThan(tom!.brightness!)
    expect(tom!.brightness!).toBeLessThan(snare!.brightness!)
    expect(snare!.brightness!).toBeLessThan(hat!.brightness!)
  })
})

it('the pitch of a hat is nothing to rely on', async () => {
  const { pitch } = await demo('HBR_OHH_001.WAV')
  expect(pitch === null || isSurePitch(pitch)).toBe(false)
})

describe('flags name the accidents of the demo', () => {
  it.each([
    ['Silence.wav', 'silent'], ['Snare too hot.wav', 'clipped'], ['Tom with offset.wav', 'dc-offset'],
    ['four bongos.wav', 'several-hits'], ['late rimshot.wav', 'late-start'], ['Winch 108bpm.wav', 'loop'],
  ] as const)('%s is %s', async (path, flag) => {
    expect((await demo(path)).flags).toContain(flag)
  })

  it('the four bongos are four hits, half a second apart', async () => {
    const { hits } = await demo('four bongos.wav')
    expect(hits.map(hit => Math.round(hit.startSeconds * 100) / 100)).toEqual([0, 0.5, 1, 1.5])
  })

  it('mono stored as stereo and channels against each other are told apart', () => {
    const channel = sine(200, RATE, RATE)
    expect(figuresOf([channel, channel.slice()], RATE).flags).toEqual(['mono-as-stereo'])
    expect(figuresOf([channel, channel.map(value => -value)], RATE).flags).toEqual(['out-of-phase'])
    expect(figuresOf([channel, sine(311, RATE, RATE)], RATE).flags).toEqual([])
  })

  it('nothing else of the harbour pack is flagged as broken', async () => {
    for (const file of packs.filter(entry => entry.path.startsWith('HARBOUR_TOOLS')).filter((_, i) => i % 6 === 0)) {
      expect((await demo(file.path)).flags.filter(flag => flag !== 'several-hits' && flag !== 'loop')).toEqual([])
    }
  })
})

describe('level', () => {
  it('agrees with `sox -n stat` on the same files', async () => {
    for (const path of ['HBR_SD_003.WAV', 'HBR_CB_001.WAV', 'Kick tief 01 hard.wav']) {
      const audio = await decodeAudio(packs.find(file => file.path.endsWith(path))!.make())
      const file = join(mkdtempSync(join(tmpdir(), 'emporion-')), 'a.wav')
      writeFileSync(file, writeWave(audio.channels, audio.sampleRate, { depth: 'float' }))
      const { stderr } = spawnSync('sox', [file, '-n', 'stat'], { encoding: 'utf8' })
      const stat = (name: string) => Number(new RegExp(`${name}:\\s+(-?[\\d.]+)`).exec(stderr)![1])
      const { level } = figuresOf(audio.channels, audio.sampleRate)
      expect(level!.peakDb).toBeCloseTo(20 * Math.log10(Math.max(stat('Maximum amplitude'), -stat('Minimum amplitude'))), 2)
      expect(level!.rmsDb).toBeCloseTo(20 * Math.log10(stat('RMS\\s+amplitude')), 1)
    }
  })
})

/** Where in a value there are numbers that are none. */
function notFinite(value: unknown, place = ''): string[] {
  if (typeof value === 'number') return Number.isFinite(value) ? [] : [`${place}: ${value}`]
  return value !== null && typeof value === 'object' ? Object.entries(value).flatMap(([key, inner]) => notFinite(inner, `${place}.${key}`)) : []
}

describe('whatever it is given', () => {
  it('of a damaged file that lies far over full scale tells what it would tell of it at full scale, but for its level', () => {
    const sound = struck('kickShort')
    const peak = sound.reduce((most, value) => Math.max(most, Math.abs(value)), 0)
    const [full, over] = [1, 2 ** 80].map(scale => figuresOf([sound.map(value => value / peak * scale)], SYNTH_RATE))
    expect({ ...over, level: null }).toEqual({ ...full, level: null })
    expect(over!.level!.peakDb - full!.level!.peakDb).toBeCloseTo(80 * 20 * Math.log10(2), 3)
    expect(over!.level!.hitLufs - full!.level!.hitLufs).toBeCloseTo(80 * 20 * Math.log10(2), 3)
  })

  it('gives finite figures, and hits in order within the sound', () => {
    fc.assert(fc.property(
      fc.constantFrom(8000, 22_050, 44_100, 96_000), fc.integer({ min: 1, max: 2 }),
      fc.array(fc.float({ min: -1, max: 1, noNaN: true }), { minLength: 1, maxLength: 3000 }), fc.constantFrom(1e-38, 1e-6, 1, 1, 1, 1e5, 1e7, 1e17, 1e20, 3e38),
      (rate, count, values, most) => {
        const channels = Array.from({ length: count }, (_, c) => Float32Array.from(values, value => (c ? value / 2 : value) * most))
        const figures = figuresOf(channels, rate)
        expect(notFinite(figures)).toEqual([])
        figures.hits.reduce((before, hit) => {
          expect(hit.startSeconds).toBeGreaterThanOrEqual(before)
          expect(hit.endSeconds).toBeGreaterThanOrEqual(hit.startSeconds)
          return hit.startSeconds
        }, 0)
      }), { numRuns: 150 })
  })
})
