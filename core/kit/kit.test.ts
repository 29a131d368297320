import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { testSound } from '../../tests/helpers/kit'
import { EmporionError } from '../errors'
import { emptyKit, KIT_SCHEMA_VERSION, kitSchema, soundsOf, type Kit } from './document'
import { addBank, clearPads, placeSounds, removeLastBank, renameKit, setLayer, setPads, swapPads } from './edits'
import { record, redo, startHistory, undo, type History } from '../document/history'
import { keepSteps, recallSteps } from '../document/keptHistory'
import { nudgePads } from './nudge'
import { addLayer, splitEvenly, takeTurns } from './layerEdits'
import { copyPads, pastePads } from './clips'
import { leaveRoom } from './noteEdits'
import { outputsByKind } from './outputs'
import { parseKit, readableKit } from './migrate'

describe('placing sounds', () => {
  it('puts one sound on the pad itself, in place of what it held, and keeps the pad\'s settings', () => {
    const first = setPads(placeSounds(emptyKit('K'), 3, [testSound(1)]).kit, [3], { gainDb: -3 })
    const { kit } = placeSounds(first, 3, [testSound(2, 50)])
    expect(kit.pads[3]!.layers[0]).toMatchObject({ sound: { name: 'Sound 2' }, startFrame: 0, endFrame: 50 })
    expect(kit.pads[3]).toMatchObject({ gainDb: -3, name: 'Sound 2', role: 'kick' })
  })

  it('puts several on the free pads that follow, replacing none, and adds banks', () => {
    const filled = placeSounds(emptyKit('K'), 14, [testSound(1)]).kit
    const { kit, padIndexes } = placeSounds(filled, 13, [testSound(2), testSound(3), testSound(4)])
    expect(padIndexes).toEqual([13, 15, 16])
    expect(kit.pads.length).toBe(32)
    expect(kit.pads[14]!.layers[0]!.sound.name).toBe('Sound 1')
  })

  it('says which sounds found no pad: 128 is the most (8 banks x 16 pads, references.md)', () => {
    const many = Array.from({ length: 130 }, (_, i) => testSound(i + 1))
    const { kit, leftOver } = placeSounds(emptyKit('K'), 0, many)
    expect(kit.pads.length).toBe(128)
    expect(leftOver.map(sound => sound.sound.name)).toEqual(['Sound 129', 'Sound 130'])
    expect(new Set(kit.pads.map(pad => pad.note)).size).toBe(128)
  })
})

describe('the standard layout', () => {
  it('is 16 pads from note 36 up to 51 (common practice, references.md)', () => {
    expect(emptyKit('K').pads.map(pad => pad.note)).toEqual(Array.from({ length: 16 }, (_, i) => 36 + i))
  })
})

describe('random edits', () => {
  const edit: fc.Arbitrary<(kit: Kit) => Kit> = fc.oneof(
    fc.tuple(fc.nat(40), fc.array(fc.integer({ min: 1, max: 30 }), { minLength: 1, maxLength: 20 })).map(([at, sounds]) => (kit: Kit) => placeSounds(kit, at % kit.pads.length, sounds.map(n => testSound(n))).kit),
    fc.tuple(fc.nat(40), fc.record({ gainDb: fc.double({ min: -96, max: 24, noNaN: true }), pan: fc.double({ min: -1, max: 1, noNaN: true }), chokeGroup: fc.option(fc.integer({ min: 1, max: 32 })) })).map(([at, settings]) => (kit: Kit) => setPads(kit, [at % kit.pads.length, 0], settings)),
    fc.tuple(fc.nat(40), fc.integer({ min: -50, max: 5000 }), fc.integer({ min: -50, max: 5000 })).map(([at, startFrame, endFrame]) => (kit: Kit) => setLayer(kit, at % kit.pads.length, 0, { startFrame, endFrame, reverse: startFrame % 2 === 0 })),
    fc.tuple(fc.nat(40), fc.nat(40)).map(([a, b]) => (kit: Kit) => swapPads(kit, a % kit.pads.length, b % kit.pads.length)),
    fc.nat(40).map(at => (kit: Kit) => clearPads(kit, [at % kit.pads.length])),
    fc.constant(addBank),
    fc.tuple(fc.nat(40), fc.nat(9)).map(([at, n]) => (kit: Kit) => addLayer(kit, at % kit.pads.length, testSound(n + 1).sound)),
    fc.tuple(fc.nat(40), fc.nat(20)).map(([at, overlap]) => (kit: Kit) => splitEvenly(kit, at % kit.pads.length, overlap)),
    fc.nat(40).map(at => (kit: Kit) => takeTurns(kit, at % kit.pads.length)),
    fc.tuple(fc.nat(40), fc.nat(40)).map(([from, to]) => (kit: Kit) => pastePads(kit, to % kit.pads.length, copyPads(kit, [from % kit.pads.length]), true).kit),
    fc.tuple(fc.nat(40), fc.double({ min: -20, max: 20, noNaN: true })).map(([at, by]) => (kit: Kit) => nudgePads(kit, [at % kit.pads.length], 'gainDb', by)),
    fc.tuple(fc.nat(127), fc.nat(5)).map(([note, count]) => (kit: Kit) => leaveRoom(kit, note, count)),
    fc.constant(outputsByKind),
    fc.constant(removeLastBank),
    fc.string({ minLength: 1, maxLength: 20 }).map(name => (kit: Kit) => renameKit(kit, name)),
  )

  it('leave a valid kit, and undo brings back each state exactly', () => {
    fc.assert(fc.property(fc.array(edit, { minLength: 1, maxLength: 60 }), (edits) => {
      let history: History<Kit> = startHistory(emptyKit('K'))
      const states: Kit[] = [history.present]
      for (const change of edits) {
        history = record(history, change(history.present), 'edit')
        if (history.present !== states.at(-1)) states.push(history.present)
        expect(() => kitSchema.parse(history.present)).not.toThrow()
      }
      for (const state of states.toReversed()) {
        expect(history.present).toBe(state)
        history = undo(history)
      }
      for (const state of states) {
        expect(history.present).toBe(state)
        history = redo(history)
      }
    }), { numRuns: 60 })
  })

  it('a thousand of them, with undo and redo in between: every state is whole, and undo restores exactly', () => {
    fc.assert(fc.property(fc.array(fc.oneof({ weight: 6, arbitrary: edit }, { weight: 1, arbitrary: fc.constantFrom('undo' as const, 'redo' as const) }), { minLength: 1000, maxLength: 1000 }), (acts) => {
      let history: History<Kit> = startHistory(emptyKit('K'))
      for (const [i, act] of acts.entries()) {
        const before = history
        history = act === 'undo' ? undo(history) : act === 'redo' ? redo(history) : record(history, act(history.present), 'edit')
        if (typeof act === 'function' && history !== before) expect(undo(history).present).toBe(before.present)
        if (i % 25 === 0) kitSchema.parse(history.present)
      }
      kitSchema.parse(history.present)
      expect(recallSteps(structuredClone(keepSteps(history)))).toEqual(history)
    }), { numRuns: 3 })
  }, 60_000)

  it('edits of one gesture are undone as one', () => {
    let history = startHistory(emptyKit('K'))
    for (const gainDb of [-1, -2, -3]) history = record(history, setPads(history.present, [0], { gainDb }), 'Gain', 'gain:0')
    expect(undo(history).present.pads[0]!.gainDb).toBe(0)
  })
})

describe('reading kit documents', () => {
  it('reads back what it writes', () => {
    const { kit } = placeSounds(emptyKit('K'), 0, [testSound(1), testSound(2), testSound(1)])
    expect(parseKit(JSON.parse(JSON.stringify(kit)))).toEqual(kit)
    expect(soundsOf(kit)).toHaveLength(2)
  })

  it.each(['kit-0.json', 'kit-1.json', 'kit-2.json', 'kit-3.json'])('brings %s, as it was written then, up to date', (name) => {
    const kit = parseKit(JSON.parse(readFileSync(`tests/documents/${name}`, 'utf8')))
    expect(kit.schema).toBe(KIT_SCHEMA_VERSION)
    expect(kit.pads[0]).toMatchObject({ name: 'Kick', note: 36, gainDb: -3, output: 'main', muted: false })
    expect(kit.pads[0]!.layers[0]).toMatchObject({ lowVelocity: 1, highVelocity: 127, startFrame: 10, endFrame: 900 })
    expect(parseKit(JSON.parse(JSON.stringify(kit)))).toEqual(kit)
  })

  it('turns away newer documents, and says where a broken one is broken', () => {
    expect(() => parseKit({ ...emptyKit('K'), schema: 99 })).toThrow(/newer Emporion/)
    const broken = { ...emptyKit('K'), pads: emptyKit('K').pads.with(2, { ...emptyKit('K').pads[2]!, note: 300 }) }
    expect(() => parseKit(broken)).toThrow(/pads\.2\.note/)
  })

  it('shows a newer one without what it does not know, to be read only', () => {
    const { kit } = placeSounds(emptyKit('Later'), 0, [testSound(1)])
    const newer = { ...kit, schema: 9, tempo: 120, pads: kit.pads.map(pad => ({ ...pad, glow: true, layers: pad.layers.map(layer => ({ ...layer, spin: 1 })) })) }
    expect(readableKit(newer)).toEqual({ kit, writtenBy: 9 })
    expect(readableKit(kit)).toEqual({ kit, writtenBy: null })
    expect(() => readableKit({ schema: 9, name: 'Other' })).toThrow(/newer Emporion/)
  })

  it('never throws anything but a named error, whatever it is given', () => {
    fc.assert(fc.property(fc.oneof(fc.anything(), fc.record({ schema: fc.nat(3), pads: fc.anything() })), (value) => {
      try {
        parseKit(value)
      }
      catch (thrown) {
        expect(thrown).toBeInstanceOf(EmporionError)
      }
    }))
  })
})
