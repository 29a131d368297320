import { describe, expect, it } from 'vitest'
import { placeByKind } from './byKind'
import { emptyKit, MOST_PADS } from './document'
import { setPads } from './edits'

const sound = (kind: string | null, n = 0) => ({ sound: { id: n.toString(16).padStart(64, '0'), name: `${kind} ${n}`, frames: 100, sampleRate: 44_100, channels: 1 }, kind })

describe('sounds put on pads by their kinds', () => {
  it('go to the keys of their kinds (General MIDI System Level 1, percussion key map)', () => {
    const { kit, padIndexes } = placeByKind(emptyKit('k'), ['snare', 'kick', 'hat.open', 'hat.closed', 'tom.low', 'cymbal.ride', 'clap'].map((kind, i) => sound(kind, i)))
    expect(padIndexes.map(index => kit.pads[index]!.note)).toEqual([38, 36, 46, 42, 41, 51, 39])
  })

  it('go to pads that are meant for them first, and replace nothing', () => {
    const meant = setPads(emptyKit('k'), [7], { role: 'kick' })
    const { kit, padIndexes } = placeByKind(meant, [sound('kick', 1), sound('kick', 2), sound('kick', 3)])
    expect(padIndexes.slice(0, 2)).toEqual([7, 0])
    expect(new Set(padIndexes).size).toBe(3)
    expect(kit.pads[padIndexes[2]!]!.layers[0]!.sound.name).toBe('kick 3')
  })

  it('leave the pads of others to them, whatever comes first', () => {
    const kinds = ['wood.block', null, 'hat', 'kick', 'effect', 'snare']
    const { kit, padIndexes } = placeByKind(emptyKit('k'), kinds.map((kind, i) => sound(kind, i)))
    const notes = padIndexes.map(index => kit.pads[index]!.note)
    expect([notes[2], notes[3], notes[5]]).toEqual([42, 36, 38])
    expect(new Set(notes).size).toBe(kinds.length)
    expect(padIndexes.map(index => kit.pads[index]!.layers[0]!.sound.name)).toEqual(kinds.map((kind, i) => `${kind} ${i}`))
  })

  it('find any free pad without a kind, add banks, and tell what found none', () => {
    const { kit, padIndexes, leftOver } = placeByKind(emptyKit('k'), Array.from({ length: MOST_PADS + 2 }, (_, i) => sound(null, i)))
    expect(kit.pads).toHaveLength(MOST_PADS)
    expect(new Set(padIndexes).size).toBe(MOST_PADS)
    expect(leftOver).toHaveLength(2)
  })
})
