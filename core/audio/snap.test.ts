import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sine } from '../../tests/helpers/audio'
import { nearestPlace, nearestZeroCrossing, outlineOf } from './snap'

describe('snapping', () => {
  it('finds the crossings of a sine: every half period', () => {
    const channel = sine(100, 48_000, 4800)
    for (const [from, near] of [[230, 240], [700, 720], [470, 480]] as const) expect(Math.abs(nearestZeroCrossing(channel, from, 60) - near)).toBeLessThanOrEqual(1)
  })

  it('stays where it is when there is none within reach, and never leaves the channel', () => {
    const flat = new Float32Array(1000).fill(0.5)
    expect(nearestZeroCrossing(flat, 500, 100)).toBe(500)
    fc.assert(fc.property(fc.float32Array({ noNaN: true, minLength: 1 }), fc.nat(200), fc.nat(50), (channel, at, reach) => {
      const frame = Math.min(at, channel.length)
      const snapped = nearestZeroCrossing(channel, frame, reach)
      expect(Math.abs(snapped - frame)).toBeLessThanOrEqual(reach)
      expect(snapped >= 0 && snapped <= channel.length).toBe(true)
    }))
  })

  it('takes the nearest place within reach', () => {
    expect(nearestPlace([10, 100, 130], 112, 20)).toBe(100)
    expect(nearestPlace([10, 100], 60, 20)).toBeUndefined()
  })

  it('an outline holds every value of its stretch', () => {
    const channel = new Float32Array(1000)
    channel[501] = 0.9
    channel[502] = -0.4
    const outline = outlineOf(channel, 400, 600, 100)
    expect(Math.max(...outline)).toBe(114)
    expect(Math.min(...outline)).toBe(-51)
    expect([...outlineOf(channel, 0, 400, 50)].every(value => value === 0)).toBe(true)
  })
})
