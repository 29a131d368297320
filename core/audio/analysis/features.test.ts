import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyStruck, struck, STRUCK_RATE as RATE } from '../../../tests/helpers/struck'
import { sine } from '../../../tests/helpers/audio'
import { FEATURE_NAMES } from './features'
import { measure } from './figures'

const valueOf = (samples: Float32Array, name: string) => measure([samples], RATE).features![FEATURE_NAMES.indexOf(name)]!

/** A sound that ends after so many milliseconds, faded over the last two. */
function ending(samples: Float32Array, milliseconds: number): Float32Array {
  const frames = Math.round(milliseconds / 1000 * RATE)
  return samples.slice(0, frames).map((value, i) => value * Math.min(1, (frames - i) / 96))
}

describe('the values of the vector', () => {
  it('of the body do not leap while a sound gets longer than its attack, and are those of the attack as long as it is not', () => {
    fc.assert(fc.property(anyStruck, fc.nat(500), fc.integer({ min: 40, max: 110 }), (name, seed, milliseconds) => {
      const [shorter, longer] = [milliseconds, milliseconds + 1].map(end => ending(struck(name, seed), end))
      for (const value of ['centroid of the body', 'noisiness of the body']) {
        expect(Math.abs(valueOf(shorter!, value) - valueOf(longer!, value))).toBeLessThan(32)
        if (milliseconds < 58) expect(valueOf(shorter!, value)).toBe(valueOf(shorter!, value.replace('body', 'attack')))
      }
    }), { numRuns: 25 })
  })

  it('of the pitch count as far as it is sure: a tone lies at its own, noise in the middle', () => {
    const places = [110, 220, 440].map(hz => valueOf(sine(hz, RATE, RATE), 'pitch'))
    // Equal steps for equal intervals, from 25 Hz to 4 kHz.
    for (const [i, hz] of [110, 220, 440].entries()) expect(places[i]).toBeCloseTo(255 * Math.log(hz / 25) / Math.log(160), -0.7)
    let seed = 1
    const hiss = Float32Array.from({ length: RATE }, () => (seed = seed * 16_807 % 2_147_483_647) / 1_073_741_823.5 - 1)
    expect(Math.abs(valueOf(hiss, 'pitch') - 127.5)).toBeLessThan(20)
  })
})
