import { describe, expect, it } from 'vitest'
import { emptyKit, wholeLayer, type Kit, type Pad } from './document'
import { beyondLimits, type Limits } from './limits'

const LIMITS: Limits = { id: 'small', name: 'Small box', columns: 4, rows: 1, pads: 3, lowNote: 36, highNote: 60, layers: 2 }
const layer = wholeLayer({ id: 'a'.repeat(64), name: 'Hull', frames: 1000, sampleRate: 44_100, channels: 1 })

/** A kit with sounds on some pads. */
function kitOf(pads: Readonly<Record<number, Partial<Pad>>>): Kit {
  const kit = emptyKit('Harbour')
  return { ...kit, pads: kit.pads.map((pad, i) => pads[i] ? { ...pad, layers: [layer], ...pads[i] } : pad) }
}

describe('what lies beyond the limits of a target', () => {
  it('is nothing for a kit that fits, and for one without sounds', () => {
    expect(beyondLimits(emptyKit('Empty'), LIMITS)).toEqual([])
    expect(beyondLimits(kitOf({ 0: {}, 5: {}, 9: {} }), LIMITS)).toEqual([])
  })

  it('counts the pads that hold sounds, not their places', () => {
    const found = beyondLimits(kitOf({ 2: {}, 4: {}, 6: {}, 8: {} }), LIMITS)
    expect(found.map(({ padIndex, limit }) => [padIndex, limit])).toEqual([[8, 'pads']])
    expect(found[0]!.what).toContain('4th pad with a sound: Small box has 3')
  })

  it('names a note that is not played, below as above, and what to do', () => {
    const found = beyondLimits(kitOf({ 0: { note: 35 }, 1: { note: 36 }, 2: { note: 61 } }), LIMITS)
    expect(found.map(({ padIndex, limit }) => [padIndex, limit])).toEqual([[0, 'note'], [2, 'note']])
    expect(found[0]!.what).toContain('Note 35 of A1')
    expect(found.every(beyond => beyond.next.length > 0)).toBe(true)
  })

  it('counts layers, but not of a pad that plays a chosen alternate alone', () => {
    const layers = [layer, layer, layer]
    expect(beyondLimits(kitOf({ 0: { layers } }), LIMITS).map(beyond => beyond.limit)).toEqual(['layers'])
    expect(beyondLimits(kitOf({ 0: { layers, alternate: 1 } }), LIMITS)).toEqual([])
  })

  it('says all that is wrong with a pad', () => {
    const found = beyondLimits(kitOf({ 0: {}, 1: {}, 2: {}, 3: { note: 90, layers: [layer, layer, layer] } }), LIMITS)
    expect(found.map(beyond => beyond.limit)).toEqual(['pads', 'note', 'layers'])
  })
})
