import { describe, expect, it } from 'vitest'
import { noise, rmsOf, sine } from '../../tests/helpers/audio'
import { reshape } from './reshape'
import type { Variant } from './variants'

const RATE = 48_000
const whole: Variant = { sampleRate: RATE, depth: 24, channels: 2, fold: null, fromFrame: 0, toFrame: RATE, seconds: 1, bytes: 0, loss: 0, lostDb: { bandwidth: -120, tail: -120, stereo: -120, noise: -120 } }
const stereo = [noise(RATE, 1), noise(RATE, 2)]

describe('making a sample what its variant says', () => {
  it('leaves alone what nothing is done to, to the bit', () => {
    const { channels } = reshape({ channels: stereo, sampleRate: RATE }, whole)
    expect(channels).toEqual(stereo)
  })

  it('cuts to the frame, and fades from the cut back to nothing without a corner', () => {
    const { channels: [channel] } = reshape({ channels: [sine(200, RATE, RATE, 0.8)], sampleRate: RATE }, { ...whole, channels: 1, fromFrame: 4800, toFrame: 24_000 })
    expect(channel).toHaveLength(19_200)
    expect(Math.abs(channel![0]!)).toBe(0)
    expect(Math.abs(channel!.at(-1)!)).toBeLessThan(1e-4)
    // A step would be as high as the wave; the steepest of the wave itself is 0.8 x 2 pi x 200 / 48,000 (arithmetic), and the fade in
    // of half a millisecond adds as much at most.
    const steepest = channel!.reduce((most, value, i) => i === 0 ? 0 : Math.max(most, Math.abs(value - channel![i - 1]!)), 0)
    expect(steepest).toBeLessThan(0.8 * 2 * Math.PI * 200 / RATE * 2)
  })

  it('folds as loud as both sides were together, whichever way', () => {
    const loudness = Math.sqrt((rmsOf(stereo[0]!) ** 2 + rmsOf(stereo[1]!) ** 2) / 2)
    for (const fold of ['sum', 'left', 'right'] as const) {
      const { channels } = reshape({ channels: stereo, sampleRate: RATE }, { ...whole, channels: 1, fold })
      expect(channels).toHaveLength(1)
      expect(rmsOf(channels[0]!)).toBeCloseTo(loudness, 4)
    }
  })

  it('comes to the rate that is asked for, as long as before', () => {
    const { channels, sampleRate } = reshape({ channels: [sine(1000, RATE, RATE, 0.5)], sampleRate: RATE }, { ...whole, channels: 1, sampleRate: 22_050 })
    expect([channels[0]!.length, sampleRate]).toEqual([22_050, 22_050])
  })
})
