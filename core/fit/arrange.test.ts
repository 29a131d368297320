import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { kitOf, layerOf, Sounds, target } from '../../tests/helpers/fit'
import type { Kit } from '../kit/document'
import { arrange, ARRANGING, usualArranging } from './arrange'
import { SHIPPED_TARGETS } from './shipped'
import { slotsOf } from './target'

const hit = new Sounds().hit('hit', 1)
const filled = (pads: readonly { note: number, role?: string }[]): Kit => kitOf(pads.map(({ note, role }) => ({ note, role: role ?? null, layers: [layerOf(hit)] })))
const indexes = (kit: Kit) => kit.pads.flatMap((pad, i) => pad.layers.length > 0 ? [i] : [])
const placed = (kit: Kit, id: string, way: typeof ARRANGING[number]) => arrange(kit, indexes(kit), target(id), way).map(({ padIndex, slot, toNote }) => [padIndex, slot, toNote])

describe('where pads go', () => {
  it('by role: on the keys of the General MIDI percussion map (kick 36, snare 38, closed hat 42, crash 49)', () => {
    const kit = filled([{ note: 60, role: 'cymbal.crash' }, { note: 61, role: 'kick' }, { note: 62, role: 'hat.closed' }, { note: 63, role: 'snare' }])
    expect(arrange(kit, [0, 1, 2, 3], target('gm-percussion'), 'role').map(place => [place.padIndex, place.toNote])).toEqual([[0, 49], [1, 36], [2, 42], [3, 38]])
  })

  it('by note: on its own where there is one, else on the next that is free', () => {
    const kit = filled([{ note: 36 }, { note: 36 }, { note: 120 }])
    expect(placed(kit, 'lembos', 'note')).toEqual([[0, 0, 36], [1, 1, 37], [2, 2, 38]])
    expect(placed(kit, 'samples', 'note')).toEqual([[0, 0, 36], [1, 1, 37], [2, 2, 120]])
    // SFZ sounds two pads on one note together, as the kit does.
    expect(placed(kit, 'sfz', 'note')).toEqual([[0, 0, 36], [1, 1, 36], [2, 2, 120]])
  })

  it('in order: a pad keeps its place in banks of 16, and comes one after the other in others', () => {
    const kit = filled([{ note: 70 }, { note: 71 }, { note: 72 }])
    const gaps = { ...kit, pads: kit.pads.map((pad, i) => i === 1 ? { ...pad, layers: [] } : pad) }
    expect(placed(gaps, 'lembos', 'position')).toEqual([[0, 0, 36], [2, 2, 38]])
    expect(placed(gaps, 'akatos', 'position')).toEqual([[0, 0, 36], [2, 1, 37]])
    expect([usualArranging(target('lembos')), usualArranging(target('holkas'))]).toEqual(['position', 'note'])
  })

  it('a pad with a range stays on its notes, and others keep off them', () => {
    const range = { low: 40, high: 50, root: 45, trackCents: 100 }
    const kit = kitOf([{ note: 42, layers: [layerOf(hit)] }, { note: 45, range, layers: [layerOf(hit)] }])
    const places = arrange(kit, [0, 1], { ...target('sfz'), holds: target('sfz').holds.filter(one => one !== 'stacks') }, 'note')
    expect(places.find(place => place.padIndex === 1)!.toNote).toBe(45)
    expect(places.find(place => place.padIndex === 0)!.toNote).not.toSatisfy((note: number) => note >= 40 && note <= 50)
  })

  it('no two on one place, none outside, whatever the kit and the target', () => {
    fc.assert(fc.property(fc.array(fc.record({ note: fc.nat(127), role: fc.constantFrom('kick', 'snare', 'hat.closed', 'effect') }), { minLength: 1, maxLength: 16 }), fc.constantFrom(...SHIPPED_TARGETS), fc.constantFrom(...ARRANGING), (pads, wanted, way) => {
      const kit = filled(pads)
      const places = arrange(kit, indexes(kit), wanted, way)
      expect(new Set(places.map(place => place.slot)).size).toBe(places.length)
      for (const { slot, toNote } of places) {
        expect(slot).toBeLessThan(slotsOf(wanted))
        expect(toNote).toBeGreaterThanOrEqual(wanted.notes.first)
        expect(toNote).toBeLessThanOrEqual(wanted.notes.last)
        if (wanted.notes.way === 'fixed') expect(toNote).toBe(wanted.notes.first + slot)
      }
    }))
  })
})
