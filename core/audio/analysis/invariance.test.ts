import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { INSTRUMENTS, type Instrument } from '../../../demo/packs/instruments'
import { finish, Random, SYNTH_RATE } from '../../../demo/synth/dsp'
import { resample } from '../resample'
import { figuresOf, type Figures } from './figures'

// What must not change when a recording is made louder, later, longer, in another rate, or on two channels.
const STRUCK: readonly Instrument[] = ['kickLong', 'snare', 'closedHat', 'openHat', 'tomMid', 'conga', 'cowbell', 'woodBlock', 'crash', 'claves']
const sounds = STRUCK.map(name => [name, finish(INSTRUMENTS[name](new Random(77), 0.8), -6)] as const)
const measured = new Map(sounds.map(([name, channel]) => [name, figuresOf([channel], SYNTH_RATE)]))
const cents = (a: number, b: number) => Math.abs(1200 * Math.log2(a / b))

function expectSameCharacter(now: Figures, before: Figures, seconds = 0.003): void {
  expect(now.hits.length).toBe(before.hits.length)
  expect(Math.abs(now.timing!.effectiveSeconds - before.timing!.effectiveSeconds)).toBeLessThan(seconds)
  expect(Math.abs(now.timing!.attackSeconds - before.timing!.attackSeconds)).toBeLessThan(seconds)
  expect(Math.abs(now.brightness! - before.brightness!)).toBeLessThanOrEqual(2)
  if (before.pitch && before.pitch.confidence > 0.6) expect(cents(now.pitch!.hz, before.pitch.hz)).toBeLessThan(15)
}

describe.each(sounds)('%s', (name, channel) => {
  const before = measured.get(name)!

  it('louder or softer: the levels move by just that, all else stays', () => {
    fc.assert(fc.property(fc.double({ min: -30, max: 5, noNaN: true }), (db) => {
      const now = figuresOf([channel.map(value => value * 10 ** (db / 20))], SYNTH_RATE)
      for (const figure of ['peakDb', 'truePeakDb', 'rmsDb', 'hitLufs'] as const) expect(now.level![figure] - before.level![figure]).toBeCloseTo(db, 2)
      expect(now.level!.crestDb).toBeCloseTo(before.level!.crestDb, 3)
      expectSameCharacter(now, before)
    }), { numRuns: 4 })
  })

  it('turned upside down: nothing moves', () => {
    const now = figuresOf([channel.map(value => -value)], SYNTH_RATE)
    expect(now.level).toEqual(before.level)
    expect(now.timing).toEqual(before.timing)
    expect(now.brightness).toBe(before.brightness)
  })

  it('later and with a longer tail of silence: it begins later, is as long, as loud and the same', () => {
    const late = new Float32Array(channel.length + SYNTH_RATE)
    late.set(channel, SYNTH_RATE / 4)
    const now = figuresOf([late], SYNTH_RATE)
    expect(now.timing!.leadSeconds - before.timing!.leadSeconds).toBeCloseTo(0.25, 2)
    expect(now.flags).toContain('late-start')
    expect(Math.abs(now.level!.hitLufs - before.level!.hitLufs)).toBeLessThan(0.2)
    expectSameCharacter(now, before)
  })

  it('on two channels: twice the power, otherwise the same', () => {
    const now = figuresOf([channel, channel], SYNTH_RATE)
    expect(now.level!.hitLufs - before.level!.hitLufs).toBeCloseTo(3.01, 2)
    expect(now.level!.truePeakDb).toBeCloseTo(before.level!.truePeakDb, 6)
    expect(now.flags).toEqual(['mono-as-stereo'])
    expectSameCharacter(now, before)
  })

  it('at a higher sample rate: the same sound', () => {
    // Down first, so that no rate has to leave out what another holds.
    const [low] = resample([channel], SYNTH_RATE, 44_100)
    const original = figuresOf([low!], 44_100)
    for (const rate of [48_000, 64_000, 88_200, 96_000]) {
      const [converted] = resample([low!], 44_100, rate)
      const now = figuresOf([converted!], rate)
      expect(Math.abs(now.level!.hitLufs - original.level!.hitLufs)).toBeLessThan(0.3)
      // The tail of a long noise crosses -60 dB slowly: a fiftieth of its length is little over a decibel.
      expectSameCharacter(now, original, Math.max(0.008, original.timing!.effectiveSeconds / 50))
    }
  })
})
