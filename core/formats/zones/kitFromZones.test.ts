import { describe, expect, it } from 'vitest'
import { PLAIN_ENVELOPE, type SoundRef } from '../../kit/document'
import { parseKit } from '../../kit/migrate'
import { kitFromZones } from './kitFromZones'
import { writeLoopOut } from './loops'
import { pairedUp } from './pairs'
import { PLAIN_ZONE, type Zone } from './zone'

const sound = (n: number): SoundRef => ({ id: n.toString(16).padStart(64, '0'), name: `Sound ${n}`, frames: 1000, sampleRate: 48_000, channels: 1 })
const zone = (note: number, change: Partial<Zone> = {}): Zone => ({
  ...PLAIN_ZONE, sample: 0, name: '', lowNote: note, highNote: note, rootNote: note, keytrackCents: 100, lowVelocity: 1, highVelocity: 127, gainDb: 0, pan: 0, tuneCents: 0,
  startFrame: 0, endFrame: 1000, play: 'one-shot', envelope: PLAIN_ENVELOPE, filter: null, ...change,
})
const make = (zones: readonly Zone[], isPercussion = false) => kitFromZones({ name: 'Kit', zones, sounds: [sound(1), sound(2), undefined], isPercussion })
const padsOf = (zones: readonly Zone[], isPercussion = false) => make(zones, isPercussion).kit.pads.filter(pad => pad.layers.length > 0)

describe('zones as a kit', () => {
  it('share a pad where only layers differ, and have pads of their own where a pad as a whole would', () => {
    expect(padsOf([zone(36, { highVelocity: 63 }), zone(36, { lowVelocity: 64, sample: 1 })]).map(pad => pad.layers.length)).toEqual([2])
    expect(padsOf([zone(36), zone(36, { play: 'gated', sample: 1 })]).map(pad => [pad.note, pad.play])).toEqual([[36, 'one-shot'], [36, 'gated']])
  })

  it('have their own pan, envelope and filter as layers of one pad', () => {
    const filter = { type: 'low-pass', cutoffHz: 900, resonanceDb: 0 } as const
    const envelope = { ...PLAIN_ENVELOPE, decaySeconds: 0.5 }
    const [pad, ...others] = padsOf([zone(36), zone(36, { pan: 0.5, sample: 1 }), zone(36, { filter, envelope })])
    expect(others).toEqual([])
    expect(pad).toMatchObject({ pan: 0, filter: null, envelope: PLAIN_ENVELOPE })
    expect(pad!.layers.map(layer => [layer.pan, layer.filter, layer.envelope])).toEqual([[null, null, null], [0.5, null, null], [null, filter, envelope]])
  })

  it('over several keys become a pad with that range; where another zone begins, so does another pad', () => {
    expect(padsOf([zone(60, { lowNote: 58, highNote: 61 })]).map(pad => [pad.note, pad.range, pad.layers[0]!.tuneCents])).toEqual([[60, { low: 58, high: 61, root: 60, trackCents: 100 }, 0]])
    const pads = padsOf([zone(60, { lowNote: 58, highNote: 61 }), zone(61, { rootNote: 59, sample: 1 })])
    expect(pads.map(pad => [pad.note, pad.range?.low, pad.range?.high, pad.layers.map(layer => layer.tuneCents)])).toEqual([[60, 58, 60, [0]], [61, undefined, undefined, [100, 200]]])
  })

  it('get the kinds of their names, or of the percussion keys (General MIDI) where notes mean that', () => {
    expect(padsOf([zone(38)], true)[0]!.role).toBe('snare')
    expect(padsOf([zone(38)])[0]!.role).toBeNull()
    expect(padsOf([zone(38, { name: 'Open hi-hat' })], true)[0]!.role).toBe('hat.open')
  })

  it('that are more than a kit or a pad takes are reported, and the kit stays whole', () => {
    const many = Array.from({ length: 130 }, (_, i) => zone(36, { gainDb: i / 10 - 2 }))
    const doubled = Array.from({ length: 128 }, (_, note) => [zone(note, { output: 1 }), zone(note, { output: 2 })]).flat()
    const { kit, notCarried } = make([...many, ...doubled])
    expect(notCarried.map(one => one.what).join(' ')).toMatch(/needs 257 pads; a kit has 128. Each note has one first, and 129 more.*130 zones; a pad takes 128/)
    expect(new Set(kit.pads.map(pad => pad.note)).size).toBe(128)
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
