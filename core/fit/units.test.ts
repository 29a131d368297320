import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { kitOf, layerOf, Sounds, target } from '../../tests/helpers/fit'
import { PLAIN_ENVELOPE, type Layer } from '../kit/document'
import { FEATURES, type Feature, type Target } from './target'
import { keptGroups, warningsOfKit, unitsOf, weightOf } from './units'

const sounds = new Sounds()
const hit = sounds.hit('hit', 1)
const layer = (settings: Partial<Layer> = {}) => layerOf(hit, settings)
const lembos = target('lembos')
const holding = (...holds: Feature[]): Target => ({ ...lembos, holds, layers: 16, turns: 8, audio: { ...lembos.audio, channels: 2 } })
const unitsOfLayers = (layers: readonly Layer[], wanted: Target) => unitsOf(kitOf([{ layers }]), wanted)[0]!

describe('the samples that a target needs for a pad', () => {
  it('are its velocity ranges, softest first, each whole', () => {
    const { units, warnings } = unitsOfLayers([layer({ lowVelocity: 80, highVelocity: 127 }), layer({ lowVelocity: 1, highVelocity: 79 })], holding())
    expect(units.map(unit => [unit.lowVelocity, unit.highVelocity, unit.layers])).toEqual([[1, 79, [1]], [80, 127, [0]]])
    expect(warnings).toEqual([])
  })

  it('layers that sound together become one, unless the target stacks them', () => {
    const stack = [layer(), layer({ gainDb: -6 })]
    expect(unitsOfLayers(stack, holding()).units.map(unit => unit.layers)).toEqual([[0, 1]])
    expect(unitsOfLayers(stack, holding('stacks')).units.map(unit => unit.layers)).toEqual([[0], [1]])
  })

  it('takes in turn each carry the layer that sounds at every hit', () => {
    const { units } = unitsOfLayers([layer({ turn: 2 }), layer(), layer({ turn: 1 })], holding())
    expect(units.map(unit => [unit.turn, unit.layers])).toEqual([[1, [1, 2]], [2, [0, 1]]])
  })

  it('ranges that overlap are cut where they meet, and that is reported; those that cross-fade stay where the target can', () => {
    const fading = [layer({ lowVelocity: 1, highVelocity: 80, fadeOutVelocities: 20 }), layer({ lowVelocity: 61, highVelocity: 127, fadeInVelocities: 20 })]
    const cut = unitsOfLayers(fading, holding())
    expect(cut.units.map(unit => [unit.lowVelocity, unit.highVelocity])).toEqual([[1, 70], [71, 127]])
    expect(cut.warnings.map(({ feature }) => feature)).toEqual(['crossfade'])
    expect(unitsOfLayers(fading, holding('crossfade', 'stacks')).units.map(unit => [unit.lowVelocity, unit.highVelocity])).toEqual([[1, 80], [61, 127]])
  })

  it('of alternates it is the chosen one alone, and that is reported', () => {
    const pad = { alternate: 64, layers: [layer(), layer({ gainDb: -1 })] }
    const [one] = unitsOf(kitOf([pad]), holding())
    expect(one!.units.map(unit => unit.layers)).toEqual([[1]])
    expect(one!.warnings[0]!.what).toBe('Of 2 alternates only the chosen one is kept.')
    expect(unitsOf(kitOf([pad]), holding('alternates'))[0]!.units).toHaveLength(2)
  })

  it('sound at every velocity at which the pad does, and at no other, once each, whatever its layers', () => {
    const ranges = fc.array(fc.tuple(fc.integer({ min: 1, max: 127 }), fc.integer({ min: 1, max: 127 })).map(([a, b]) => layer({ lowVelocity: Math.min(a, b), highVelocity: Math.max(a, b) })), { minLength: 1, maxLength: 6 })
    fc.assert(fc.property(ranges, (layers) => {
      const { units } = unitsOfLayers(layers, holding())
      for (let velocity = 1; velocity <= 127; velocity++) {
        const heard = layers.some(one => velocity >= one.lowVelocity && velocity <= one.highVelocity)
        const there = units.filter(unit => velocity >= unit.lowVelocity && velocity <= unit.highVelocity).length
        if (!heard) expect(there).toBe(0)
      }
      expect(new Set(units.flatMap(unit => unit.layers))).toEqual(new Set(layers.keys()))
    }))
  })
})

describe('settings of a pad', () => {
  it('go into its samples where the target does not hold them, with those that come before them', () => {
    const pad = { tuneCents: 100, filter: { type: 'low-pass', cutoffHz: 900, resonanceDb: 0 } as const, driveDb: 6, envelope: { ...PLAIN_ENVELOPE, decaySeconds: 0.3 }, layers: [layer()] }
    const baked = (...holds: Feature[]) => [...unitsOf(kitOf([pad]), holding(...holds))[0]!.baked]
    expect(baked()).toEqual(['tune', 'filter', 'drive', 'envelope'])
    // Drive comes after tune and filter: what is driven has to be tuned and filtered already.
    expect(baked('tune', 'filter', 'envelope')).toEqual(['tune', 'filter', 'drive'])
    expect(baked('tune', 'low-pass', 'drive', 'envelope')).toEqual([])
    expect([...unitsOf(kitOf([pad]), target('package'))[0]!.baked]).toEqual([])
  })

  it('pan goes into samples of two sides, or is reported', () => {
    const wide = sounds.hit('wide', 2, { stereo: true })
    const padOf = (wanted: Target) => unitsOf(kitOf([{ pan: -0.5, layers: [layerOf(wide)] }]), wanted)[0]!
    expect(padOf(holding()).bakesPan).toBe(true)
    expect(padOf(holding('pan')).bakesPan).toBe(true)
    expect(padOf(holding('pan', 'stereo pan')).bakesPan).toBe(false)
    expect(padOf(lembos)).toMatchObject({ bakesPan: false, warnings: [{ feature: 'pan', what: 'A1 lies left of the middle; Lembos is mono.' }] })
  })

  it('that the target has no words for are reported, pad by pad; of one that has them all nothing is', () => {
    const kit = { ...kitOf([{ chokeGroup: 1, play: 'gated', polyphony: 2, output: 'far', layers: [layer()] }]), outputs: [{ id: 'main', name: 'Main' }, { id: 'far', name: 'Far' }] }
    expect(unitsOf(kit, lembos)[0]!.warnings.map(({ feature }) => feature)).toEqual(['chokes', 'gated', 'pad polyphony', 'outputs'])
    expect(unitsOf(kit, { ...lembos, holds: [...FEATURES], chokeGroups: 8 })[0]!.warnings).toEqual([])
  })

  it('choke groups keep their numbers where they fit, and are numbered anew where not; those beyond are reported', () => {
    const kit = kitOf([7, 3, 9, 3].map(chokeGroup => ({ chokeGroup, layers: [layer()] })))
    const chokes = (chokeGroups: number): Target => ({ ...holding('chokes'), chokeGroups })
    expect([...keptGroups(kit, chokes(16))]).toEqual([[3, 3], [7, 7], [9, 9]])
    expect([...keptGroups(kit, chokes(2))]).toEqual([[3, 1], [7, 2]])
    expect(warningsOfKit(kit, chokes(2)).map(({ what }) => what)).toEqual(['The kit has 3 choke groups; Lembos has 2. The pads of the last ones are in none.'])
    expect(unitsOf(kit, chokes(2)).map(({ warnings }) => warnings.length)).toEqual([0, 0, 1, 0])
  })

  it('velocities weigh by how loud they are: all together 1, the upper half most of it', () => {
    expect(weightOf({ lowVelocity: 1, highVelocity: 127 })).toBeCloseTo(1, 9)
    const [soft, loud] = [weightOf({ lowVelocity: 1, highVelocity: 63 }), weightOf({ lowVelocity: 64, highVelocity: 127 })]
    expect(soft + loud).toBeCloseTo(1, 9)
    // (63/127)^2.2 = 0.214 (arithmetic).
    expect(soft).toBeCloseTo(0.214, 3)
  })
})
