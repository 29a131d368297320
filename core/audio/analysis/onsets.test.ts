import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { INSTRUMENTS, type Instrument } from '../../../demo/packs/instruments'
import { mix, Random, SYNTH_RATE } from '../../../demo/synth/dsp'
import { fromDb } from '../level'
import { figuresOf } from './figures'

interface Stroke {
  readonly instrument: Instrument
  readonly seconds: number
  /** Of its highest sample, over full scale. */
  readonly db: number
}

const WITHIN_SECONDS = 0.005

/** What strokes at known times sound like together. */
function played(strokes: readonly Stroke[], seconds: number): Float32Array {
  const out = new Float32Array(Math.round(seconds * SYNTH_RATE))
  strokes.forEach(({ instrument, seconds: at, db }, i) => {
    const sound = INSTRUMENTS[instrument](new Random(60 + i), 0.8)
    const peak = sound.reduce((high, value) => Math.max(high, Math.abs(value)), 0)
    mix(out, sound, fromDb(db) / peak, at)
  })
  return out
}

const beginnings = (samples: Float32Array) => figuresOf([samples], SYNTH_RATE).hits.map(hit => hit.startSeconds)
const isNear = (a: number, b: number) => Math.abs(a - b) < WITHIN_SECONDS

describe('a hit while another one sounds', () => {
  const bright: readonly Instrument[] = ['crash', 'ride', 'china', 'openHat']
  const low: readonly Instrument[] = ['kickShort', 'kickLong', 'tomLow', 'tomMid']
  const brief: readonly Instrument[] = ['closedHat', 'rim', 'claves', 'woodBlock']
  const seconds = fc.double({ min: 0.2, max: 0.8, noNaN: true })

  it.each([
    ['a low one beneath bronze', bright, low],
    ['a bright one over a skin', ['kickLong', 'tomLow', 'tomMid'] as const, brief],
  ])('%s: told within 5 ms of where it begins, at a half to a quarter of the height (times as synthesised)', (_, firsts, others) => {
    fc.assert(fc.property(fc.constantFrom(...firsts), fc.constantFrom(...others), seconds, fc.double({ min: -12, max: -6, noNaN: true }), (first, second, at, below) => {
      const found = beginnings(played([{ instrument: first, seconds: 0, db: -3 }, { instrument: second, seconds: at, db: -3 + below }], 1.6))
      expect(found.some(start => isNear(start, at))).toBe(true)
    // Always the same times: at the lower edge one hit in 70,000 is not heard.
    }), { numRuns: 100, seed: 11 })
  })

  it('counts though the frames of the spectrum lie so that it is seen a moment after it began', () => {
    for (const at of [0.20587, 0.22192, 0.23783, 0.24293]) {
      for (const below of [-6, -6.5]) {
        const found = beginnings(played([{ instrument: 'crash', seconds: 0, db: -3 }, { instrument: 'kickShort', seconds: at, db: -3 + below }], 1.6))
        expect(found.some(start => isNear(start, at)), `at ${at} s`).toBe(true)
      }
    }
  })
})

describe('a pattern', () => {
  const step = 60 / 110 / 4
  // Right after a snare its wires would drown a soft hat.
  const strokes = Array.from({ length: 32 }, (_, i) => i).filter(i => i % 8 !== 5).map((i): Stroke => {
    const instrument = i % 8 === 0 ? 'kickShort' : i % 8 === 4 ? 'snare' : 'closedHat'
    return { instrument, seconds: 0.02 + i * step, db: instrument === 'closedHat' ? i % 2 === 0 ? -15 : -21 : -6 }
  })

  it('is found hit by hit, its soft hats too, each within 5 ms and no more than there are', () => {
    const found = beginnings(played(strokes, 33 * step))
    for (const { seconds } of strokes) expect(found.some(start => isNear(start, seconds)), `the hit at ${seconds.toFixed(3)} s`).toBe(true)
    expect(found).toHaveLength(strokes.length)
  })
})
