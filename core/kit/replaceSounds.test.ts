import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { testSound } from '../../tests/helpers/kit'
import { emptyKit, kitSchema, type SoundRef } from './document'
import { placeSounds, setLayer, setPads } from './edits'
import { addLayer } from './layerEdits'
import { replaceSounds } from './replaceSounds'

const former: SoundRef = { ...testSound(1).sound, name: 'Bollard 3', frames: 44_100, sampleRate: 44_100 }
const other = testSound(2)
const standIn = (changes: Partial<SoundRef> = {}): SoundRef => ({ ...testSound(3).sound, name: 'Bollard 3 cut', frames: 48_000, sampleRate: 48_000, ...changes })
const kitOf = (layer = {}) => setLayer(placeSounds(emptyKit('K'), 0, [{ sound: former, kind: null }]).kit, 0, 0, layer)
const replaced = (layer: object, sound: SoundRef) => replaceSounds(kitOf(layer), new Map([[former.id, sound]])).pads[0]!.layers[0]!

describe('a sound in the place of another', () => {
  it('is put wherever the kit holds that, with all that is set there; other sounds stay as they are', () => {
    const one = setPads(placeSounds(placeSounds(kitOf({ gainDb: -3, tuneCents: 50 }), 1, [other]).kit, 2, [{ sound: former, kind: null }]).kit, [2], { name: 'Knock', pan: 0.5 })
    const kit = replaceSounds(addLayer(one, 1, former), new Map([[former.id, standIn()]]))
    expect(kit.pads.slice(0, 3).map(pad => pad.layers.map(layer => layer.sound.id))).toEqual([[standIn().id], [other.sound.id, standIn().id], [standIn().id]])
    expect(kit.pads[0]!.layers[0]).toMatchObject({ gainDb: -3, tuneCents: 50 })
    expect(kit.pads[2]).toMatchObject({ name: 'Knock', pan: 0.5 })
    expect(kit.pads[3]).toBe(one.pads[3])
  })

  it('gives its name to pads that were named after the other', () => {
    expect(replaceSounds(kitOf(), new Map([[former.id, standIn()]])).pads[0]!.name).toBe('Bollard 3 cut')
  })

  it('leaves a kit as it is that does not hold the other', () => {
    const kit = kitOf()
    expect(replaceSounds(kit, new Map([[other.sound.id, standIn()]]))).toBe(kit)
  })

  it('plays the same stretch of time at another rate', () => {
    expect(replaced({ startFrame: 4410, endFrame: 22_050, fadeInFrames: 441, fadeOutFrames: 882 }, standIn()))
      .toMatchObject({ startFrame: 4800, endFrame: 24_000, fadeInFrames: 480, fadeOutFrames: 960 })
  })

  it('plays to its end where the other did, however long either is', () => {
    expect(replaced({ startFrame: 4410 }, standIn({ frames: 9600 }))).toMatchObject({ startFrame: 4800, endFrame: 9600 })
    expect(replaced({}, standIn({ frames: 960_000 }))).toMatchObject({ startFrame: 0, endFrame: 960_000 })
  })

  it('plays whole where it is over before the other began', () => {
    expect(replaced({ startFrame: 22_050, endFrame: 33_075 }, standIn({ frames: 12_000 }))).toMatchObject({ startFrame: 0, endFrame: 12_000 })
  })

  it('makes a valid kit of any, whatever its length and rate', () => {
    const frames = fc.integer({ min: 1, max: 200_000 })
    fc.assert(fc.property(frames, frames, frames, fc.integer({ min: 1, max: 400_000 }), fc.constantFrom(8000, 44_100, 48_000, 192_000), (start, end, fade, length, sampleRate) => {
      const kit = replaceSounds(kitOf({ startFrame: start, endFrame: end, fadeInFrames: fade, fadeOutFrames: fade }), new Map([[former.id, standIn({ frames: length, sampleRate })]]))
      expect(kitSchema.safeParse(kit).success).toBe(true)
      expect(kit.pads[0]!.layers[0]!.sound.frames).toBe(length)
    }))
  })
})
