import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { testSound } from '../../tests/helpers/kit'
import { BLUEPRINTS, blueprintOf, ONE_KIND_SIZES, oneKind } from './blueprint'
import { differencesOf } from './differences'
import { emptyKit, kitSchema, type Kit } from './document'
import { clearPads, placeSounds, renameKit, setPads, swapPads } from './edits'
import { kitSet } from './kitSet'
import { keepHeadroom, matchLoudness } from './levels'
import { leaveRoom, moveToNote, nextFreeNote, takenNotes } from './noteEdits'
import { BOUNDS, nudgePads, numberOf, setNumber, type NumberSetting } from './nudge'
import { addOutput, outputsByKind, removeOutput, renameOutput } from './outputs'
import type { KnownSound } from './parts'

const filled = (count: number): Kit => placeSounds(emptyKit('K'), 0, Array.from({ length: count }, (_, i) => testSound(i + 1))).kit
const known = (name: string, n: number, kind: string | null): KnownSound => ({ sound: { ...testSound(n).sound, name }, folder: 'Deck', kind, hitLufs: -20, pitchNote: null, statedNote: null })

describe('notes', () => {
  it('the next free one is above, then from the bottom', () => {
    expect(nextFreeNote(filled(3), 36)).toBe(39)
    expect(nextFreeNote(setPads(filled(1), [0], { note: 127 }), 126)).toBe(0)
    expect(nextFreeNote(filled(128), 40)).toBeUndefined()
  })

  it('room is left by moving what is above; never past 127', () => {
    const kit = leaveRoom(filled(4), 38, 3)
    expect(kit.pads.slice(0, 4).map(pad => pad.note)).toEqual([36, 37, 41, 42])
    expect([...takenNotes(kit)]).toEqual([36, 37, 41, 42])
    expect(new Set(kit.pads.map(pad => pad.note)).size).toBe(16)
    expect(leaveRoom(kit, 42, 100)).toBe(kit)
  })

  it('a pad that takes the note of an empty one leaves it its own', () => {
    const kit = moveToNote(filled(1), 0, 45)
    expect([kit.pads[0]!.note, kit.pads[9]!.note]).toEqual([45, 36])
  })
})

describe('numbers of several pads', () => {
  it('move by as much, and keep their differences', () => {
    const kit = nudgePads(setPads(filled(2), [1], { gainDb: -6 }), [0, 1], 'gainDb', -3)
    expect(kit.pads.slice(0, 2).map(pad => pad.gainDb)).toEqual([-3, -9])
    const filtered = setPads(filled(2), [0], { filter: { type: 'low-pass', cutoffHz: 1000, resonanceDb: 0 } })
    expect(nudgePads(filtered, [0, 1], 'cutoffHz', 1).pads.slice(0, 2).map(pad => pad.filter?.cutoffHz)).toEqual([2000, undefined])
  })

  it('never leave their bounds, whatever is asked', () => {
    const setting = fc.constantFrom(...Object.keys(BOUNDS) as NumberSetting[])
    fc.assert(fc.property(setting, fc.double({ min: -1e5, max: 1e5, noNaN: true }), fc.double({ min: -100, max: 100, noNaN: true }), (name, value, by) => {
      const start = setPads(filled(2), [0, 1], { note: 60, range: { low: 50, high: 70, root: 60, trackCents: 100 }, filter: { type: 'high-pass', cutoffHz: 500, resonanceDb: 2 }, envelope: { attackSeconds: 0, holdSeconds: 0, decaySeconds: 1, releaseSeconds: 1 } })
      const kit = nudgePads(setNumber(start, [0], name, value), [0, 1], name, by)
      kitSchema.parse(kit)
      expect(numberOf(kit.pads[0]!, name)).toBeGreaterThanOrEqual(BOUNDS[name].low)
    }))
  })
})

describe('outputs', () => {
  it('are sixteen at most, with names of their own; pads of one that goes come back to the first', () => {
    let kit = filled(2)
    for (let i = 0; i < 20; i++) kit = addOutput(kit, 'Drums')
    expect(kit.outputs).toHaveLength(16)
    expect(kit.outputs.slice(1, 4).map(output => output.name)).toEqual(['Drums', 'Drums 2', 'Drums 3'])
    const sent = setPads(kit, [1], { output: kit.outputs[2]!.id })
    expect(removeOutput(sent, kit.outputs[2]!.id).pads[1]!.output).toBe('main')
    expect(removeOutput(sent, 'main')).toBe(sent)
    expect(renameOutput(kit, kit.outputs[1]!.id, 'drums 2').outputs[1]!.name).toBe('drums 2 2')
    kitSchema.parse(removeOutput(sent, kit.outputs[2]!.id))
  })

  it('go by kind in one step', () => {
    const kit = outputsByKind(setPads(filled(3), [0, 1, 2], { role: 'hat.open' }))
    expect(outputsByKind(setPads(kit, [1], { role: 'kick' })).outputs.map(output => output.name)).toEqual(['Main', 'Hat', 'Kick'])
    kitSchema.parse(kit)
    expect(kit.pads[3]!.output).toBe('main')
  })
})

describe('levels', () => {
  it('pads come to one loudness by their gains; what was not measured stays', () => {
    const kit = matchLoudness(filled(3), [0, 1, 2], index => index === 2 ? undefined : { peakDb: -3, hitLufs: [-14, -30][index]! }, -20)
    expect(kit.pads.slice(0, 3).map(pad => pad.gainDb)).toEqual([-6, 10, 0])
  })

  it('headroom is kept by the kit\'s gain alone, and never by less than asked', () => {
    expect(keepHeadroom(filled(1), 4.24, -1).gainDb).toBeCloseTo(-5.3)
    expect(keepHeadroom(filled(1), -Infinity, -1).gainDb).toBe(0)
  })
})

describe('blueprints', () => {
  it('are whole kits of roles without sounds, each note once', () => {
    for (const { kit } of [...BLUEPRINTS, ...ONE_KIND_SIZES.map(size => oneKind('clap', 'Clap', size))]) {
      kitSchema.parse(kit)
      expect(new Set(kit.pads.map(pad => pad.note)).size).toBe(kit.pads.length)
      expect(kit.pads.every(pad => pad.layers.length === 0)).toBe(true)
    }
    expect(ONE_KIND_SIZES.map(size => oneKind('clap', 'Clap', size).kit.pads.length)).toEqual([16, 32, 64, 128])
  })

  it('the standard one lies on its keys (General MIDI System Level 1; references.md, a standard layout)', () => {
    const roleAt = (note: number) => BLUEPRINTS[0]!.kit.pads.find(pad => pad.note === note)?.role
    expect([36, 38, 40, 42, 46, 41, 50].map(roleAt)).toEqual(['kick', 'snare', 'snare', 'hat.closed', 'hat.open', 'tom.low', 'tom.high'])
  })

  it('a kit becomes one by losing its sounds, and nothing else', () => {
    const kit = setPads(filled(2), [0], { gainDb: -3, chokeGroup: 2 })
    expect(blueprintOf(kit).pads[0]).toMatchObject({ gainDb: -3, chokeGroup: 2, role: 'kick', layers: [], name: '' })
  })
})

describe('kit sets', () => {
  it('one kit a kind with its own output, named after the pack; takes of one instrument share a pad', () => {
    const sounds = [known('Kick 1', 1, 'kick'), known('Snare_rr1', 2, 'snare'), known('Snare_rr2', 3, 'snare'), known('What', 4, null), known('Hat', 5, 'hat.open')]
    const set = kitSet('Car deck', sounds)
    expect(set.map(kit => [kit.name, kit.outputs.map(output => output.name), kit.pads.filter(pad => pad.layers.length > 0).length])).toEqual([
      ['Car deck – Kick', ['Kick'], 1], ['Car deck – Snare', ['Snare'], 1], ['Car deck – Hat', ['Hat'], 1], ['Car deck – Other sounds', ['Other sounds'], 1],
    ])
    set.forEach(kit => kitSchema.parse(kit))
  })

  it('no sound is lost, however many a kind has', () => {
    const set = kitSet('Pack', Array.from({ length: 300 }, (_, i) => known(`Clap ${i}`, i + 1, 'clap')))
    expect(set.map(kit => kit.pads.filter(pad => pad.layers.length > 0).length)).toEqual([128, 128, 44])
    expect(set.map(kit => kit.name)).toEqual(['Pack – Clap 1', 'Pack – Clap 2', 'Pack – Clap 3'])
  })
})

describe('what changed', () => {
  it('pads added, removed and altered, in words', () => {
    const before = filled(3)
    const after = renameKit(setPads(clearPads(placeSounds(before, 5, [testSound(9)]).kit, [1]), [0], { gainDb: -2, pan: 0.1 }), 'Other')
    expect(differencesOf(before, after)).toEqual([
      { what: 'altered', padIndex: null, text: 'The kit: name, now "Other"' },
      { what: 'altered', padIndex: 0, text: 'A1 Sound 1: gain, pan' },
      { what: 'removed', padIndex: 1, text: 'A2 Sound 2' },
      { what: 'added', padIndex: 5, text: 'A6 Sound 9' },
    ])
    expect(differencesOf(before, structuredClone(before))).toEqual([])
    expect(differencesOf(before, swapPads(before, 0, 1)).map(one => one.what)).toEqual(['altered', 'altered'])
  })
})
