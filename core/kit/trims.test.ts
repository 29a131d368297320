import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { testSound } from '../../tests/helpers/kit'
import { emptyKit, kitSchema } from './document'
import { placeSounds, setPads } from './edits'
import { evenCuts, hitCuts, slice, trimPads, type SoundTimes } from './trims'

const FRAMES = 48_000
const kit = placeSounds(emptyKit('K'), 0, [testSound(1, FRAMES), testSound(2, FRAMES)]).kit
const times: SoundTimes = { leadSeconds: 0.1, endSeconds: 0.8, hits: [{ startSeconds: 0.1, endSeconds: 0.4 }, { startSeconds: 0.4, endSeconds: 0.8 }] }
const layer = kit.pads[0]!.layers[0]!

describe('trimming pads', () => {
  it('cuts to the first hit, at -60 dB, and leading silence; back to the whole without loss', () => {
    const of = (way: Parameters<typeof trimPads>[2]) => {
      const { startFrame, endFrame } = trimPads(kit, [0], way, () => times).pads[0]!.layers[0]!
      return [startFrame, endFrame]
    }
    expect(of('first hit')).toEqual([4800, 19_152])
    expect(of('tail')).toEqual([0, 38_400])
    expect(of('lead')).toEqual([4800, FRAMES])
    const cut = trimPads(trimPads(kit, [0, 1], 'lead', () => times), [0, 1], 'tail', () => times)
    expect(trimPads(cut, [0, 1], 'whole', () => times)).toEqual(kit)
  })

  it('changes nothing where there is one hit, or the times are not known', () => {
    expect(trimPads(kit, [0], 'first hit', () => ({ ...times, hits: times.hits.slice(0, 1) }))).toBe(kit)
    expect(trimPads(kit, [0], 'tail', () => undefined)).toBe(kit)
  })
})

describe('slicing', () => {
  it('evenly, or at its hits, onto the empty pads of the notes that follow; the sound stays whole', () => {
    const sliced = slice(setPads(kit, [0], { gainDb: -4 }), 0, evenCuts(layer, 4))
    expect(sliced.kit.pads.filter(pad => pad.layers[0]?.sound.id === layer.sound.id).map(pad => [pad.note, pad.layers[0]!.startFrame, pad.layers[0]!.endFrame, pad.gainDb]))
      .toEqual([[36, 0, 12_000, -4], [38, 12_000, 24_000, -4], [39, 24_000, 36_000, -4], [40, 36_000, FRAMES, -4]])
    expect(hitCuts(layer, times)).toEqual([4752, 19_152])
  })

  it('whatever the cuts: slices follow one another without gap, none lost unsaid, and the kit is whole', () => {
    fc.assert(fc.property(fc.uniqueArray(fc.nat(FRAMES - 1), { minLength: 1, maxLength: 150 }), (cuts) => {
      const rising = cuts.toSorted((a, b) => a - b)
      const { kit: next, padIndexes, leftOver } = slice(kit, 0, rising)
      kitSchema.parse(next)
      expect(padIndexes.length + leftOver).toBe(rising.length)
      const parts = padIndexes.map(index => next.pads[index]!.layers[0]!)
      parts.slice(1).forEach((part, i) => expect(part.startFrame).toBe(parts[i]!.endFrame))
      expect(next.pads[1]!.layers).toBe(kit.pads[1]!.layers)
    }), { numRuns: 60 })
  })
})
