import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fit, kitOf, layerOf, NO_WISHES, planOnly, Sounds, target } from '../../tests/helpers/fit'
import type { Kit, Pad } from '../kit/document'
import { velocityRanges } from '../kit/ranges'
import type { Target } from './target'
import { writeForTarget } from './write'

const sounds = new Sounds()
const hits = [1, 2, 3, 4, 5, 6, 7].map(seed => sounds.hit(`Hit ${'x'.repeat(seed * 3)}`, seed, { seconds: 0.02 + seed / 90, stereo: seed % 3 === 0, sampleRate: [48_000, 44_100, 96_000][seed % 3]! }))

const pads: fc.Arbitrary<Partial<Pad>> = fc.record({
  name: fc.string({ maxLength: 30 }),
  layers: fc.array(fc.record({ sound: fc.constantFrom(...hits), startFrame: fc.constantFrom(0, 37), gainDb: fc.constantFrom(0, -3), tuneCents: fc.constantFrom(0, 150) }), { minLength: 1, maxLength: 3 }),
  chokeGroup: fc.option(fc.integer({ min: 1, max: 4 })),
  driveDb: fc.constantFrom(0, 6),
  pan: fc.constantFrom(0, 0.3),
}).map(({ layers, ...settings }) => {
  const ranges = velocityRanges(layers.length)
  return { ...settings, layers: layers.map(({ sound, ...own }, i) => layerOf(sound, { ...own, lowVelocity: ranges[i]!.low, highVelocity: ranges[i]!.high })) }
})
const kits: fc.Arbitrary<Kit> = fc.array(pads, { minLength: 1, maxLength: 6 }).map(all => kitOf(all))
const written = ['sfz', 'sf2', 'dls-1', 'dls-2', 'samples', 'gm-percussion', 'kerkouros', 'akatos', 'one-layer']

/** The bytes of a plan that gives nothing up, and what is written within a part of them. */
function within(kit: Kit, wanted: Target, part: number) {
  const { after } = planOnly(kit, sounds, { ...wanted, limits: { ...wanted.limits, bytes: null } }, NO_WISHES)
  const limited = { ...wanted, limits: { ...wanted.limits, bytes: Math.round(after.bytes * part) } }
  return { limited, ...fit(kit, sounds, limited) }
}

describe('the size of what is written', () => {
  it('is planned to the byte, over all formats, and within the limit: 500 kits', () => {
    fc.assert(fc.property(kits, fc.constantFrom(...written), fc.double({ min: 0.3, max: 1.2, noNaN: true }), (kit, id, part) => {
      const { limited, plan, made } = within(kit, target(id), part)
      if (plan.shortfalls.length > 0) return
      const bytes = writeForTarget(made, limited).reduce((sum, file) => sum + file.bytes.length, 0)
      expect(bytes).toBe(plan.after.bytes)
      expect(bytes).toBeLessThanOrEqual(limited.limits.bytes!)
    }), { numRuns: 500 })
  })

  it('a SoundFont bank is planned with one depth for all', () => {
    const kit = kitOf([{ layers: [layerOf(hits[6]!)] }, { layers: [layerOf(hits[5]!)] }])
    const { plan } = within(kit, target('sf2'), 0.75)
    expect(plan.shortfalls).toEqual([])
    expect(new Set(plan.rows.flatMap(row => row.variant?.depth ?? [])).size).toBe(1)
  })

  it('what cannot be met tells the target\'s own limit', () => {
    const wanted = { ...target('sf2'), limits: { ...target('sf2').limits, bytes: 900 } }
    const { shortfalls } = planOnly(kitOf([{ layers: [layerOf(hits[0]!)] }]), sounds, wanted, { holds: { 0: { pad: true } }, importance: {} })
    expect(shortfalls[0]).toMatchObject({ meter: 'bytes', room: 900 })
    expect(shortfalls[0]!.needed).toBeGreaterThan(900)
  })
})
