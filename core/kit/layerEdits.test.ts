import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { testSound } from '../../tests/helpers/kit'
import { emptyKit, kitSchema, type Kit, type Layer } from './document'
import { setLayer } from './edits'
import { addLayer, coverageOf, moveBorder, moveLayer, removeLayer, setAlternate, splitEvenly, stackLayers, takeTurns } from './layerEdits'
import { crossfadeGain, noteOn } from './voices'

const layered = (count: number): Kit => Array.from({ length: count }, (_, i) => testSound(i + 1).sound).reduce((kit, sound) => addLayer(kit, 0, sound), emptyKit('K'))
const layersOf = (kit: Kit) => kit.pads[0]!.layers
const ranges = (kit: Kit) => layersOf(kit).map(layer => `${layer.lowVelocity}-${layer.highVelocity}`)

describe('velocity ranges', () => {
  it('are cut evenly (references.md: 0-127 over 6, of which velocity 0 is no stroke)', () => {
    expect(ranges(splitEvenly(layered(6), 0))).toEqual(['1-20', '21-41', '42-62', '63-83', '84-104', '105-127'])
    expect(coverageOf(splitEvenly(layered(6), 0).pads[0]!)).toEqual({ gaps: [], overlaps: [] })
  })

  it('overlap over as many velocities as they fade, as loud as before', () => {
    const pad = splitEvenly(layered(4), 0, 10).pads[0]!
    for (let velocity = 1; velocity <= 127; velocity++) {
      const power = pad.layers.filter(layer => velocity >= layer.lowVelocity && velocity <= layer.highVelocity).reduce((sum, layer) => sum + crossfadeGain(layer, velocity) ** 2, 0)
      expect(power).toBeCloseTo(1)
    }
    expect(coverageOf(pad)).toEqual({ gaps: [], overlaps: [] })
  })

  it('a border moves both layers that meet there, and never past the next one', () => {
    const kit = splitEvenly(layered(3), 0)
    expect(ranges(moveBorder(kit, 0, 41, 60))).toEqual(['1-60', '61-83', '84-127'])
    expect(coverageOf(moveBorder(kit, 0, 41, 120).pads[0]!).gaps).toEqual([])
  })

  it('gaps and doublings are reported', () => {
    const kit = setLayer(setLayer(splitEvenly(layered(2), 0), 0, 0, { highVelocity: 50 }), 0, 1, { lowVelocity: 61 })
    expect(coverageOf(kit.pads[0]!).gaps).toEqual([{ low: 51, high: 60 }])
    const doubled = setLayer(splitEvenly(layered(2), 0), 0, 0, { highVelocity: 70 })
    expect(coverageOf(doubled.pads[0]!).overlaps).toEqual([{ low: 64, high: 70 }])
  })
})

describe('turns', () => {
  it('are numbered anew when a layer goes, and exchanged when one moves', () => {
    const kit = takeTurns(layered(4), 0)
    expect(layersOf(removeLayer(kit, 0, 1)).map(layer => layer.turn)).toEqual([1, 2, 3])
    const moved = moveLayer(kit, 0, 0, 1)
    expect(layersOf(moved).map(layer => [layer.sound.name, layer.turn])).toEqual([['Sound 2', 1], ['Sound 1', 2], ['Sound 3', 3], ['Sound 4', 4]])
  })

  it('a layer that is left alone sounds at every hit', () => {
    expect(layersOf(removeLayer(takeTurns(layered(2), 0), 0, 0))[0]!.turn).toBeNull()
  })

  it('stay together when velocities are cut', () => {
    const turning = takeTurns(layered(3), 0)
    expect(ranges(splitEvenly(turning, 0))).toEqual(['1-127', '1-127', '1-127'])
  })
})

describe('any edits of layers', () => {
  const edits = fc.array(fc.oneof(
    fc.constant((kit: Kit) => addLayer(kit, 0, testSound(layersOf(kit).length + 1).sound)),
    fc.nat(20).map(at => (kit: Kit) => removeLayer(kit, 0, at)),
    fc.tuple(fc.nat(16), fc.nat(16)).map(([from, to]) => (kit: Kit) => moveLayer(kit, 0, from, to)),
    fc.nat(40).map(overlap => (kit: Kit) => splitEvenly(kit, 0, overlap)),
    fc.constant((kit: Kit) => takeTurns(kit, 0)),
    fc.constant((kit: Kit) => stackLayers(kit, 0)),
    fc.tuple(fc.integer({ min: 1, max: 127 }), fc.integer({ min: -5, max: 140 })).map(([from, to]) => (kit: Kit) => moveBorder(kit, 0, from, to)),
    fc.option(fc.integer({ min: -3, max: 130 })).map(value => (kit: Kit) => setAlternate(kit, 0, value)),
    fc.record<Partial<Layer>>({ lowVelocity: fc.integer({ min: 1, max: 127 }), highVelocity: fc.integer({ min: 1, max: 127 }), fadeInVelocities: fc.nat(200), fadeOutFrames: fc.nat(3000) }).map(change => (kit: Kit) => setLayer(kit, 0, 0, change)),
  ), { maxLength: 60 })

  it('leave a whole kit, and a chosen alternate that sounds', () => {
    fc.assert(fc.property(edits, (list) => {
      const kit = list.reduce((now, edit) => edit(now), emptyKit('K'))
      kitSchema.parse(kit)
      const pad = kit.pads[0]!
      if (pad.alternate !== null && pad.layers.length > 0) expect(noteOn(kit, [], 36, 64).starts).toHaveLength(1)
    }), { numRuns: 150 })
  })
})
