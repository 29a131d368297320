import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Sounds, target } from '../../tests/helpers/fit'
import { measureSample, type SampleMeasure } from './measure'
import type { Target } from './target'
import { variantsOf, type Hold } from './variants'

const RATE = 48_000
const sounds = new Sounds()
const measured = (stereo: boolean, seconds = 1): SampleMeasure => {
  const { id } = sounds.hit('hit', 3, { stereo, seconds })
  return measureSample(sounds.audio.get(id)!, 24)
}
const wide = measured(true)
const [lembos, kerkouros, akatos] = ['lembos', 'kerkouros', 'akatos'].map(target) as [Target, Target, Target]
const ways = (measure: SampleMeasure, wanted: Target, hold: Hold = {}, scarce = { seconds: true, bytes: true }) => variantsOf(measure, wanted, hold, scarce, 0)

describe('the ways to write a sample', () => {
  it('are one where nothing is scarce: the best that the target takes', () => {
    const nothing = { seconds: false, bytes: false }
    expect(ways(wide, kerkouros, {}, nothing)).toMatchObject([{ sampleRate: 48_000, depth: 24, channels: 2, fromFrame: 0, toFrame: RATE }])
    expect(ways(wide, lembos, {}, nothing)).toMatchObject([{ sampleRate: 44_100, depth: 16, channels: 1, toFrame: RATE }])
  })

  it('take as much as arithmetic says: frames x channels x bytes, and a file\'s own 256', () => {
    for (const one of ways(wide, kerkouros)) {
      const frames = Math.round((one.toFrame - one.fromFrame) * one.sampleRate / RATE)
      expect(one.bytes).toBe(frames * one.channels * (one.depth === 'float' ? 4 : one.depth / 8) + 256)
      expect(one.seconds).toBeCloseTo(frames / one.sampleRate, 9)
    }
  })

  it('come from the least loss on, and each is smaller in something scarce than all before it', () => {
    const found = ways(wide, kerkouros)
    expect(found.length).toBeGreaterThan(5)
    found.forEach((one, i) => {
      for (const better of found.slice(0, i)) {
        expect(better.loss).toBeLessThanOrEqual(one.loss)
        expect(better.bytes > one.bytes || better.seconds > one.seconds).toBe(true)
      }
    })
  })

  it('leave what is held as it is', () => {
    expect(ways(wide, kerkouros, { stereo: true }).every(one => one.channels === 2)).toBe(true)
    expect(ways(wide, kerkouros, { length: true }).every(one => one.toFrame === RATE)).toBe(true)
    expect(ways(wide, kerkouros, { bandwidth: true }).every(one => one.sampleRate === 48_000)).toBe(true)
    // A target that is mono cannot leave both sides.
    expect(ways(wide, lembos, { stereo: true }).every(one => one.channels === 1)).toBe(true)
  })

  it('never pass the longest sample; one that is held and too long has none', () => {
    const long = measured(false, 16)
    const found = ways(long, akatos)
    expect(found.length).toBeGreaterThan(0)
    expect(found.every(one => one.seconds <= 15)).toBe(true)
    expect(ways(long, akatos, { length: true }, { seconds: false, bytes: false })).toEqual([])
  })

  it('are of one side where both are the same, at no loss', () => {
    const one = measured(false)
    const samples = [...sounds.audio.values()].at(-1)!.channels[0]!
    const same = measureSample({ channels: [samples, samples], sampleRate: RATE }, 24)
    expect(ways(same, kerkouros, { stereo: true }).every(way => way.channels === 1 && way.fold === 'same')).toBe(true)
    expect(ways(same, kerkouros)[0]!.loss).toBeCloseTo(ways(one, kerkouros)[0]!.loss, 6)
  })

  it('stay within the sample and the target, whatever both are', () => {
    fc.assert(fc.property(fc.boolean(), fc.constantFrom(lembos, kerkouros, akatos, target('holkas')), fc.record({ stereo: fc.boolean(), length: fc.boolean(), bandwidth: fc.boolean() }), fc.record({ seconds: fc.boolean(), bytes: fc.boolean() }), (stereo, wanted, hold, scarce) => {
      for (const one of ways(stereo ? wide : measured(false), wanted, hold, scarce)) {
        expect(one.fromFrame).toBeGreaterThanOrEqual(0)
        expect(one.toFrame).toBeGreaterThan(one.fromFrame)
        expect(one.toFrame).toBeLessThanOrEqual(RATE)
        expect(one.channels).toBeLessThanOrEqual(wanted.audio.channels)
        expect(wanted.audio.depths).toContain(one.depth)
        expect(one.sampleRate).toBeLessThanOrEqual(wanted.audio.highestRate)
        if (wanted.audio.rates.length > 0) expect(wanted.audio.rates).toContain(one.sampleRate)
        expect(one.loss).toBeGreaterThanOrEqual(0)
        expect(one.loss).toBeLessThanOrEqual(1)
      }
    }), { numRuns: 60 })
  })
})
