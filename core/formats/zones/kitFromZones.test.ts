import { describe, expect, it } from 'vitest'
import { PLAIN_ENVELOPE, type SoundRef } from '../../kit/document'
import { parseKit } from '../../kit/migrate'
import { kitFromZones } from './kitFromZones'
import { writeLoopOut } from './loops'
import { pairedUp } from './pairs'
import type { Zone } from './zone'

const sound = (n: number): SoundRef => ({ id: n.toString(16).padStart(64, '0'), name: `Sound ${n}`, frames: 1000, sampleRate: 48_000, channels: 1 })
const zone = (note: number, change: Partial<Zone> = {}): Zone => ({
  sample: 0, name: '', lowNote: note, highNote: note, rootNote: note, keytrackCents: 100, lowVelocity: 1, highVelocity: 127, fadeInVelocities: 0, fadeOutVelocities: 0, gainDb: 0, pan: 0, tuneCents: 0,
  startFrame: 0, endFrame: 1000, fadeInFrames: 0, fadeOutFrames: 0, reverse: false, play: 'one-shot', envelope: PLAIN_ENVELOPE, filter: null, chokeGroup: null, turn: null, choice: null, output: 0, polyphony: null, ...change,
})
const make = (zones: readonly Zone[], isPercussion = false) => kitFromZones({ name: 'Kit', zones, sounds: [sound(1), sound(2), undefined], isPercussion })
const padsOf = (zones: readonly Zone[], isPercussion = false) => make(zones, isPercussion).kit.pads.filter(pad => pad.layers.length > 0)

describe('zones as a kit', () => {
  it('share a pad where only layers differ, and have pads of their own where a pad as a whole would', () => {
    expect(padsOf([zone(36, { highVelocity: 63 }), zone(36, { lowVelocity: 64, sample: 1 })]).map(pad => pad.layers.length)).toEqual([2])
    expect(padsOf([zone(36), zone(36, { pan: 0.5, sample: 1 })]).map(pad => [pad.note, pad.pan])).toEqual([[36, 0], [36, 0.5]])
  })

  it('over several keys become a pad each, tuned by their distance from the root', () => {
    expect(padsOf([zone(60, { lowNote: 58, highNote: 61 })]).map(pad => [pad.note, pad.layers[0]!.tuneCents])).toEqual([[58, -200], [59, -100], [60, 0], [61, 100]])
  })

  it('get the kinds of their names, or of the percussion keys (General MIDI) where notes mean that', () => {
    expect(padsOf([zone(38)], true)[0]!.role).toBe('snare')
    expect(padsOf([zone(38)])[0]!.role).toBeNull()
    expect(padsOf([zone(38, { name: 'Open hi-hat' })], true)[0]!.role).toBe('hat.open')
  })

  it('that are more than a kit or a pad takes are told, and the kit stays whole', () => {
    const many = Array.from({ length: 20 }, (_, i) => zone(36, { gainDb: i / 10 - 2 }))
    const wide = Array.from({ length: 3 }, (_, i) => zone(60, { lowNote: 0, highNote: 127, pan: i / 3 }))
    const { kit, notCarried } = make([...many, ...wide])
    expect(notCarried.map(one => one.what).join(' ')).toMatch(/needs 384 pads; a kit has 128.*21 zones; a pad takes 16/)
    expect(parseKit(JSON.parse(JSON.stringify(kit)))).toEqual(kit)
  })

  it('without a sample that is there are left out; choke groups above 32 are numbered anew', () => {
    expect(padsOf([zone(36, { sample: 2 }), zone(37)]).map(pad => pad.note)).toEqual([37])
    expect(padsOf([zone(36, { chokeGroup: 700 }), zone(37, { chokeGroup: 700 }), zone(38, { chokeGroup: 900 })]).map(pad => pad.chokeGroup)).toEqual([1, 1, 2])
  })
})

describe('loops and sides', () => {
  it('a loop goes round until four seconds are full', () => {
    const [out] = writeLoopOut([Float32Array.from({ length: 10 }, (_, i) => i)], 5, { startFrame: 4, endFrame: 8 })
    expect([...out!]).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 4, 5, 6, 7, 4, 5, 6, 7, 4, 5, 6, 7])
    const short = [new Float32Array(10)]
    expect(writeLoopOut(short, 5, { startFrame: 8, endFrame: 8 })).toBe(short)
    expect(writeLoopOut(short, 5, { startFrame: 2, endFrame: 11 })).toBe(short)
  })

  it('two sides that share all else are one, each with its own; a third stays alone', () => {
    const sides = ['left a', 'right a', 'plain', 'right b', 'left b', 'left a']
    const paired = pairedUp(sides, (text) => {
      const [side, key] = text.split(' ')
      return key ? { key, side: side as 'left' | 'right' } : undefined
    })
    expect(paired).toEqual([['left a', 'right a'], ['plain'], ['left b', 'right b'], ['left a']])
  })
})
