import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { testSound } from '../../../tests/helpers/kit'
import { emptyKit, type Kit } from '../../kit/document'
import { placeSounds, setLayer, setPads } from '../../kit/edits'
import { addLayer, setAlternate, splitEvenly, takeTurns } from '../../kit/layerEdits'
import { centsToRatio } from '../../kit/voices'
import { padLabel } from '../../kit/padLabel'
import { writeSfz } from './write'

/** Reads the regions of an SFZ text as any reader would: opcodes of the group, then of the region; `sample` and labels run to the line's end. */
function regionsOf(text: string): Record<string, string>[] {
  const plain = text.split('\n').filter(line => !line.startsWith('//')).join('\n')
  return plain.split('<group>').slice(1).flatMap((group) => {
    const [shared = '', ...regions] = group.split('<region>')
    return regions.map(body => ({ ...opcodesOf(shared.replace(/group_label=.*/, '')), ...opcodesOf(body.replace(/sample=.*/, '')), sample: /sample=(.*)/.exec(body)![1]! }))
  })
}

function opcodesOf(text: string): Record<string, string> {
  return Object.fromEntries([...text.matchAll(/(\w+)=(\S+)/g)].map(([, name, value]) => [name, value] as const))
}

const kits: fc.Arbitrary<Kit> = fc.array(fc.record({
  name: fc.string({ maxLength: 20 }),
  gainDb: fc.double({ min: -96, max: 24, noNaN: true }),
  pan: fc.double({ min: -1, max: 1, noNaN: true }),
  tuneCents: fc.integer({ min: -4800, max: 4800 }),
  play: fc.constantFrom('one-shot' as const, 'gated' as const),
  chokeGroup: fc.option(fc.integer({ min: 1, max: 32 })),
  startFrame: fc.nat(80),
  endFrame: fc.nat(100),
}), { minLength: 1, maxLength: 20 }).map((pads) => {
  const placed = placeSounds(emptyKit('Any <region> kit'), 0, pads.map((_, i) => testSound(i + 1, 100))).kit
  return pads.reduce((kit, { startFrame, endFrame, ...settings }, i) => {
    const index = pads.length === 1 ? 0 : i
    return setLayer(setPads(kit, [index], settings), index, 0, { startFrame, endFrame })
  }, placed)
})

const write = (kit: Kit) => writeSfz(kit, layer => ({ path: `samples/${layer.sound.name}.wav`, baked: false }))

describe('SFZ of what a pad can do', () => {
  const one = placeSounds(emptyKit('K'), 0, [testSound(1)]).kit
  const layered = [2, 3, 4].reduce((kit, n) => addLayer(kit, 0, testSound(n).sound), one)

  it('velocities that fade into one another: half way in the middle of what both have (SFZ v1, xfin and xfout)', () => {
    const regions = regionsOf(write(splitEvenly(layered, 0, 10)))
    expect(regions.map(region => [region.lovel, region.hivel])).toEqual([[undefined, '36'], ['27', '68'], ['59', '100'], ['91', undefined]])
    expect([regions[0]!.xfout_lovel, regions[0]!.xfout_hivel, regions[1]!.xfin_lovel, regions[1]!.xfin_hivel]).toEqual(['26', '37', '26', '37'])
  })

  it('turns, alternates, envelope, filter and the gain of the kit', () => {
    expect(regionsOf(write(takeTurns(layered, 0))).map(region => `${region.seq_position}/${region.seq_length}`)).toEqual(['1/4', '2/4', '3/4', '4/4'])
    expect(regionsOf(write(setAlternate(layered, 0, 3))).map(region => `${region.locc16}-${region.hicc16}`)).toEqual(['0-31', '32-63', '64-95', '96-127'])
    const shaped = setPads({ ...one, gainDb: -2 }, [0], { play: 'gated', gainDb: -3, envelope: { attackSeconds: 0.1, holdSeconds: 0.2, decaySeconds: 0.5, releaseSeconds: 0.3 }, filter: { type: 'high-pass', cutoffHz: 800, resonanceDb: 6 } })
    expect(regionsOf(write(shaped))[0]).toMatchObject({ volume: '-5', ampeg_attack: '0.1', ampeg_hold: '0.2', ampeg_decay: '0.5', ampeg_sustain: '0', ampeg_release: '0.3', fil_type: 'hpf_2p', cutoff: '800', resonance: '6' })
  })
})

describe('SFZ of any kit', () => {
  it('has one region a layer, whose values mean what the kit says (SFZ v1 opcodes, references.md)', () => {
    fc.assert(fc.property(kits, (kit) => {
      const layers = kit.pads.flatMap(pad => pad.layers.map(layer => ({ pad, layer })))
      const regions = regionsOf(write(kit))
      expect(regions).toHaveLength(layers.length)
      layers.forEach(({ pad, layer }, i) => {
        const region = regions[i]!
        expect(region.sample).toBe(`samples/${layer.sound.name}.wav`)
        expect([Number(region.key), Number(region.pitch_keycenter)]).toEqual([pad.note, pad.note])
        expect(Number(region.volume ?? 0)).toBeCloseTo(pad.gainDb, 2)
        expect(Number(region.pan ?? 0)).toBeCloseTo(pad.pan * 100, 2)
        const cents = Number(region.transpose ?? 0) * 100 + Number(region.tune ?? 0)
        expect(centsToRatio(cents)).toBeCloseTo(centsToRatio(pad.tuneCents), 9)
        expect(Math.abs(Number(region.tune ?? 0))).toBeLessThan(100)
        expect(region.loop_mode).toBe(pad.play === 'gated' ? 'no_loop' : 'one_shot')
        expect(Number(region.offset ?? 0)).toBe(layer.startFrame)
        // `end` is the last frame that sounds; left out it is the file's own.
        expect(Number(region.end ?? layer.sound.frames - 1)).toBe(layer.endFrame - 1)
        expect([region.group, region.off_by]).toEqual(pad.chokeGroup === null ? [undefined, undefined] : [String(pad.chokeGroup), String(pad.chokeGroup)])
      })
    }), { numRuns: 60 })
  })

  it('a name of any characters stays in its comment', () => {
    fc.assert(fc.property(fc.string({ unit: 'binary', maxLength: 60 }), (name) => {
      const kit = setPads(placeSounds(emptyKit('K'), 0, [testSound(1)]).kit, [0], { name: `${name}\n<region> key=1 sample=x` })
      expect(regionsOf(write(kit))).toHaveLength(1)
    }))
  })

  it('pads are called A1 to H16 (8 banks x 16 pads)', () => {
    expect([0, 15, 16, 127].map(padLabel)).toEqual(['A1', 'A16', 'B1', 'H16'])
  })
})
