import { describe, expect, it } from 'vitest'
import { Random } from '../../demo/synth/dsp'
import { sine } from '../../tests/helpers/audio'
import { struck } from '../../tests/helpers/struck'
import { measure, type Flag } from '../audio/analysis/figures'
import { CLASSES, type SoundClass } from '../audio/kinds/classes'
import { trainedNetworks } from '../audio/kinds/model'
import { classProbabilities } from '../audio/kinds/network'
import { kindFromAudio } from './kindFromAudio'

const RATE = 48_000

function heard(samples: Float32Array) {
  const { figures, features } = measure([samples], RATE)
  return kindFromAudio(figures, classProbabilities(features!, trainedNetworks()))
}

/** Begins and ends within some milliseconds, as what is cut out of something longer does. */
function faded(samples: Float32Array): Float32Array {
  return samples.map((value, i) => value * Math.min(1, i / 960, (samples.length - i) / 9600))
}

const output = (of: Partial<Record<SoundClass, number>>, flags: readonly Flag[] = [], hits = 1) =>
  kindFromAudio({ flags, hits: Array.from({ length: hits }, (_, i) => ({ startSeconds: i / 4, endSeconds: (i + 1) / 4 })) }, Float64Array.from(CLASSES, name => of[name] ?? 0))

describe('the kind that audio says', () => {
  it('is the likeliest class, with what else it may be', () => {
    expect(output({ 'rim': 0.7, 'hat.closed': 0.25, 'wood': 0.05 })).toEqual({ path: 'rim', confidence: 0.7, evidence: 'how it sounds, 25 % for closed hat' })
    expect(output({ rim: 0.96, wood: 0.04 })).toEqual({ path: 'rim', confidence: 0.96, evidence: 'how it sounds' })
    expect(output({ tom: 0.6, other: 0.4 })?.evidence).toBe('how it sounds, 40 % for no drum')
  })

  it('is nothing where it is no drum', () => {
    expect(output({ other: 0.6, tom: 0.4 })).toBeNull()
  })

  it('of many hits, one after another, is a loop, the surer the more there are', () => {
    const [few, many] = [output({ kick: 1 }, ['several-hits', 'loop'], 6), output({ kick: 1 }, ['several-hits', 'loop'], 32)]
    expect([few?.path, many?.path]).toEqual(['loop', 'loop'])
    expect(few!.confidence).toBeLessThan(many!.confidence)
    expect(many!.confidence).toBeLessThanOrEqual(0.95)
    expect(output({ kick: 1 }, ['several-hits'], 4)?.path).toBe('kick')
  })
})

// Common practice: what holds its level or swells was not struck.
describe('what was not struck', () => {
  it.each([55, 82, 110, 165, 220, 440, 880, 1760])('a tone of %d Hz that goes on is no drum', (hz) => {
    expect(heard(faded(sine(hz, RATE, 3 * RATE, 0.5)))).toBeNull()
  })

  it('nor is a chord, nor a tone that sweeps, nor noise that swells', () => {
    const chord = [220, 277.2, 329.6].map(hz => sine(hz, RATE, 2 * RATE, 0.25))
    expect(heard(faded(chord[0]!.map((value, i) => value + chord[1]![i]! + chord[2]![i]!)))).toBeNull()
    let phase = 0
    expect(heard(faded(new Float32Array(2 * RATE).map((_, i) => 0.5 * Math.sin(phase += 2 * Math.PI * 100 * 40 ** (i / 2 / RATE) / RATE))))).toBeNull()
    const random = new Random(3)
    expect(heard(new Float32Array(3 * RATE).map((_, i) => 0.5 * random.noise() * (i / 3 / RATE) ** 2))).toBeNull()
  })

  it('but a struck kick is one, and a hat', () => {
    expect(heard(struck('kick', 3))?.path).toBe('kick')
    expect(heard(struck('closedHat', 3))?.path).toBe('hat.closed')
  })
})
