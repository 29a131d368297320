import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { testSound } from '../../tests/helpers/kit'
import { copyPads, duplicatePads, pasteSettings, pastePads } from './clips'
import { emptyKit, kitSchema, type Kit } from './document'
import { placeSounds, setPads } from './edits'

const filled = (count: number, from = 1): Kit => placeSounds(emptyKit('K'), 0, Array.from({ length: count }, (_, i) => testSound(from + i))).kit

describe('pads of another kit', () => {
  const other: Kit = { ...setPads(filled(3, 50), [0, 1], { chokeGroup: 1 }), outputs: [{ id: 'main', name: 'Main' }, { id: 'out-1', name: 'Hats' }] }
  const clip = copyPads(setPads(other, [2], { output: 'out-1', gainDb: -7 }), [0, 1, 2])

  it('come with their sounds and settings, on the notes of this kit', () => {
    const { kit, padIndexes } = pastePads(filled(2), 4, clip, false)
    expect(padIndexes).toEqual([4, 5, 6])
    expect(kit.pads.slice(4, 7).map(pad => [pad.note, pad.layers[0]!.sound.name, pad.gainDb])).toEqual([[40, 'Sound 50', 0], [41, 'Sound 51', 0], [42, 'Sound 52', -7]])
  })

  it('get choke groups that cut nothing that was there: those of one group stay together', () => {
    const { kit, renumbered } = pastePads(setPads(filled(2), [0], { chokeGroup: 1 }), 4, clip, false)
    expect(renumbered).toEqual([{ from: 1, to: 2 }])
    expect([kit.pads[0]!, kit.pads[4]!, kit.pads[5]!].map(pad => pad.chokeGroup)).toEqual([1, 2, 2])
  })

  it('bring the groups that cut them, their articulations by name, and their ranges onto their new notes', () => {
    const articulations = (name: string) => [{ id: name === 'Brushes' ? 'b' : 'c', name, key: 3, whileHeld: false }]
    const from = { ...setPads(other, [0], { chokedBy: [1, 5], range: { low: 30, high: 40, root: 36, trackCents: 100 }, articulation: 'b' }), articulations: articulations('Brushes') }
    const copied = copyPads(from, [0])
    const { kit } = pastePads({ ...setPads(filled(2), [0], { chokeGroup: 1, chokedBy: [5] }), articulations: articulations('brushes').map(one => ({ ...one, id: 'here' })) }, 4, copied, false)
    expect(kit.pads[4]).toMatchObject({ note: 40, range: { low: 34, high: 44, root: 40 }, chokeGroup: 2, chokedBy: [2, 3], articulation: 'here' })
    expect(kitSchema.parse(kit)).toEqual(kit)
    // A group that only cuts is in use, too.
    expect(pastePads(setPads(filled(2), [0], { chokedBy: [1] }), 4, clip, false).renumbered).toEqual([{ from: 1, to: 2 }])
    expect(kitSchema.parse(pastePads(filled(1), 4, copied, false).kit).pads[4]!.articulation).toBeNull()
  })

  it('an output that is not here becomes the main output, and is reported', () => {
    const { kit, outputsLost } = pastePads(filled(1), 4, clip, false)
    expect(outputsLost).toEqual(['Hats'])
    expect(kit.pads[6]!.output).toBe('main')
    const here: Kit = { ...filled(1), outputs: [{ id: 'main', name: 'Main' }, { id: 'x', name: 'hats' }] }
    expect(pastePads(here, 4, clip, false)).toMatchObject({ outputsLost: [], kit: { pads: expect.arrayContaining([expect.objectContaining({ output: 'x' })]) } })
  })

  it('are told what they replace, and what no pad is left for', () => {
    const many = copyPads(placeSounds(emptyKit('K'), 0, Array.from({ length: 20 }, (_, i) => testSound(i + 1))).kit, Array.from({ length: 20 }, (_, i) => i))
    const { kit, replaced, leftOver } = pastePads(placeSounds(emptyKit('K'), 0, Array.from({ length: 115 }, (_, i) => testSound(i + 1))).kit, 112, many, true)
    expect([kit.pads.length, replaced, leftOver]).toEqual([128, [112, 113, 114], 4])
  })
})

describe('within a kit', () => {
  it('settings alone leave sounds, names, roles and notes', () => {
    const kit = setPads(filled(2), [0], { gainDb: -9, pan: 0.5, chokeGroup: 3 })
    const next = pasteSettings(kit, [1], copyPads(kit, [0]))
    expect(next.pads[1]).toMatchObject({ gainDb: -9, pan: 0.5, chokeGroup: 3, name: kit.pads[1]!.name, role: kit.pads[1]!.role, note: 37 })
    expect(next.pads[1]!.layers).toBe(kit.pads[1]!.layers)
  })

  it('copies go onto empty pads', () => {
    const { kit, padIndexes } = duplicatePads(filled(3), [0, 2])
    expect(padIndexes).toEqual([3, 4])
    expect(kit.pads[4]!.layers).toEqual(kit.pads[2]!.layers)
    expect(new Set(kit.pads.map(pad => pad.note)).size).toBe(16)
  })
})

describe('whatever is pasted', () => {
  it('the kit is whole, its notes stay, and no group of before is joined', () => {
    const groups = fc.array(fc.option(fc.integer({ min: 1, max: 32 })), { minLength: 3, maxLength: 16 })
    fc.assert(fc.property(groups, groups, fc.nat(127), (mine, theirs, at) => {
      const here = mine.reduce<Kit>((kit, chokeGroup, i) => setPads(kit, [i], { chokeGroup }), filled(mine.length))
      const there = theirs.reduce<Kit>((kit, chokeGroup, i) => setPads(kit, [i], { chokeGroup }), filled(theirs.length, 90))
      const { kit, padIndexes } = pastePads(here, at, copyPads(there, theirs.map((_, i) => i)), false)
      kitSchema.parse(kit)
      expect(kit.pads.slice(0, 16).map(pad => pad.note)).toEqual(here.pads.map(pad => pad.note))
      const before = new Set(kit.pads.flatMap((pad, index) => padIndexes.includes(index) ? [] : pad.chokeGroup ?? []))
      for (const index of padIndexes) expect(before.has(kit.pads[index]!.chokeGroup ?? 0)).toBe(false)
    }), { numRuns: 80 })
  })
})
