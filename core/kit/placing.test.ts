import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { emptyKit, kitSchema, type Kit } from './document'
import { placeSounds, setPads } from './edits'
import type { KnownSound } from './parts'
import { place, type Placing, type PlacingWay } from './placing'
import { velocityRanges } from './ranges'

const named = (name: string, n: number, more: Partial<KnownSound> = {}): KnownSound => ({
  sound: { id: n.toString(16).padStart(64, '0'), name, frames: 1000, sampleRate: 44_100, channels: 1 }, folder: 'Deck', kind: 'clap', hitLufs: -20, pitchNote: null, statedNote: null, ...more,
})
const sounds = (count: number) => Array.from({ length: count }, (_, i) => named(`Clap ${i}`, i + 1))
const notes = ({ kit, placed }: Placing) => placed.map(({ padIndex }) => kit.pads[padIndex]!.note)
const onPads = ({ kit, placed }: Placing) => placed.map(({ padIndex }) => kit.pads[padIndex]!.layers[0]!.sound.name)
const filled = (...pads: number[]): Kit => pads.reduce((kit, pad) => placeSounds(kit, pad, [named(`Held ${pad}`, 500 + pad)]).kit, emptyKit('K'))

describe('in order', () => {
  it('a kind of sixty takes sixty notes that follow one another', () => {
    const placing = place(emptyKit('K'), sounds(60), { type: 'in order', startNote: 36, gap: 0 })
    expect(notes(placing)).toEqual(Array.from({ length: 60 }, (_, i) => 36 + i))
    expect(placing.kit.pads).toHaveLength(64)
    expect(placing.notPlaced).toEqual([])
  })

  it('says what would be replaced, and what lies beyond the highest note', () => {
    const placing = place(filled(2, 9), sounds(4), { type: 'in order', startNote: 37, gap: 0 })
    expect(placing.replaced).toEqual([2])
    expect(placing.kit.pads[9]!.layers[0]!.sound.name).toBe('Held 9')
    const high = place(emptyKit('K'), sounds(5), { type: 'in order', startNote: 125, gap: 0 })
    expect(notes(high)).toEqual([125, 126, 127])
    expect(high.notPlaced.map(({ why }) => why)).toEqual(Array(2).fill('The note would be above 127, the highest there is. Begin on a lower note, or leave fewer notes free.'))
  })

  it('passes over notes that hold a sound, where nothing is to be replaced', () => {
    const placing = place(filled(2, 3), sounds(3), { type: 'in order', startNote: 37, gap: 0, skipsTaken: true })
    expect(notes(placing)).toEqual([37, 40, 41])
    expect(placing.replaced).toEqual([])
  })

  it('leaves room between families, and between kinds', () => {
    const strokes = [named('Tom_p', 1, { kind: 'tom' }), named('Tom_f', 2, { kind: 'tom' }), named('Snare_p', 3, { kind: 'snare' }), named('Snare_f', 4, { kind: 'snare' })]
    expect(notes(place(emptyKit('K'), strokes, { type: 'in order', startNote: 40, gap: 2 }))).toEqual([40, 41, 44, 45])
    const kinds = [named('a', 1, { kind: 'kick' }), named('b', 2, { kind: 'kick' }), named('c', 3, { kind: 'rim' })]
    expect(notes(place(emptyKit('K'), kinds, { type: 'in order', startNote: 40, gap: 1 }))).toEqual([40, 41, 43])
  })
})

describe('by what is known of them', () => {
  it('toms go by pitch, high to low or low to high, and those of no pitch come last', () => {
    const toms = [named('mid', 1, { pitchNote: 45 }), named('none', 2), named('high', 3, { pitchNote: 50.4 }), named('low', 4, { pitchNote: 41 })]
    expect(onPads(place(emptyKit('K'), toms, { type: 'by pitch', startNote: 41, isFalling: false }))).toEqual(['low', 'mid', 'high', 'none'])
    expect(onPads(place(emptyKit('K'), toms, { type: 'by pitch', startNote: 41, isFalling: true }))).toEqual(['high', 'mid', 'low', 'none'])
  })

  it('each goes to the note that its file states; two of one note get two pads; those that state none stay away', () => {
    const placing = place(emptyKit('K'), [named('a', 1, { statedNote: 38 }), named('b', 2), named('c', 3, { statedNote: 61 }), named('d', 4, { statedNote: 38 })], { type: 'stated note' })
    expect(notes(placing)).toEqual([38, 61, 38])
    expect(new Set(placing.placed.map(({ padIndex }) => padIndex)).size).toBe(3)
    expect(placing.notPlaced).toEqual([{ sound: expect.objectContaining({ sound: expect.objectContaining({ name: 'b' }) }), why: 'No note is stated in the file. Put it on pads in order.' }])
  })

  it('by kind onto the standard percussion keys (General MIDI System Level 1, percussion key map)', () => {
    const placing = place(emptyKit('K'), [named('s', 1, { kind: 'snare' }), named('k', 2, { kind: 'kick' }), named('o', 3, { kind: 'hat.open' })], { type: 'by kind' })
    expect(notes(placing)).toEqual([38, 36, 46])
  })
})

describe('on one pad', () => {
  it('as velocity layers from soft to loud by their names, in equal ranges (references.md: 0-127 over 6)', () => {
    const strokes = ['ff', 'p', 'mf', 'pp', 'fff', 'mp'].map((mark, i) => named(`Snare ${mark}`, i + 1, { hitLufs: -20 }))
    const { kit, replaced } = place(filled(3), strokes, { type: 'velocity layers', padIndex: 3 })
    expect(kit.pads[3]!.layers.map(layer => `${layer.sound.name} ${layer.lowVelocity}-${layer.highVelocity}`))
      .toEqual(['Snare pp 1-20', 'Snare p 21-41', 'Snare mp 42-62', 'Snare mf 63-83', 'Snare ff 84-104', 'Snare fff 105-127'])
    expect(replaced).toEqual([3])
  })

  it('by how loud they are where not all names tell', () => {
    const hits = [named('one', 1, { hitLufs: -12 }), named('two p', 2, { hitLufs: -9 }), named('three', 3, { hitLufs: -30 })]
    expect(place(emptyKit('K'), hits, { type: 'velocity layers', padIndex: 0 }).kit.pads[0]!.layers.map(layer => layer.sound.name)).toEqual(['three', 'one', 'two p'])
  })

  it('as a stack, all at every velocity; what is more than a pad holds is reported', () => {
    const { kit, notPlaced, placed } = place(emptyKit('K'), sounds(130), { type: 'stack', padIndex: 5 })
    expect(kit.pads[5]!.layers.every(layer => layer.lowVelocity === 1 && layer.highVelocity === 127)).toBe(true)
    expect([placed.length, notPlaced.length]).toEqual([128, 2])
    expect(notPlaced[0]!.why).toBe('A pad has 128 layers at most. Put the others on another pad.')
  })

  it('as a round robin, each hit the next; as alternates, up to 128 chosen by a value', () => {
    const turning = place(emptyKit('K'), sounds(4), { type: 'round robin', padIndex: 2 })
    expect(turning.kit.pads[2]!.layers.map(layer => layer.turn)).toEqual([1, 2, 3, 4])
    const many = place(emptyKit('K'), sounds(130), { type: 'alternates', padIndex: 2 })
    expect(many.kit.pads[2]).toMatchObject({ alternate: 0 })
    expect(many.kit.pads[2]!.layers).toHaveLength(128)
    expect(many.notPlaced).toHaveLength(2)
  })

  it('over velocity as their levels lie: 12 dB down is half the velocity, since gain is its square (SFZ v1)', () => {
    const hits = [named('a', 1, { hitLufs: -24 }), named('b', 2, { hitLufs: -12 })]
    const { kit } = place(emptyKit('K'), hits, { type: 'velocity layers', padIndex: 0, byLevel: true })
    // 127 x 10^(-12 / 40) = 63.6; half way to 127 is 95.
    expect(kit.pads[0]!.layers.map(layer => [layer.lowVelocity, layer.highVelocity])).toEqual([[1, 95], [96, 127]])
  })

  it('keeps the pad\'s own settings', () => {
    const kit = setPads(emptyKit('K'), [1], { gainDb: -5, chokeGroup: 2 })
    expect(place(kit, sounds(3), { type: 'velocity layers', padIndex: 1 }).kit.pads[1]).toMatchObject({ gainDb: -5, chokeGroup: 2, note: 37 })
  })
})

describe('beside what the pads hold', () => {
  const held = filled(0)
  const names = ({ kit }: Placing, pad = 0) => kit.pads[pad]!.layers.map(layer => layer.sound.name)

  it('as further layers, turns, a stack and alternates; nothing is replaced', () => {
    const put = (type: 'velocity layers' | 'round robin' | 'stack' | 'alternates') => place(held, sounds(2), { type, padIndex: 0, adds: true })
    for (const type of ['velocity layers', 'round robin', 'stack', 'alternates'] as const) {
      expect(names(put(type))).toEqual(['Held 0', 'Clap 0', 'Clap 1'])
      expect(put(type).replaced).toEqual([])
      kitSchema.parse(put(type).kit)
    }
    const layers = (type: 'velocity layers' | 'round robin' | 'stack') => put(type).kit.pads[0]!.layers
    expect(layers('velocity layers').map(({ lowVelocity: low, highVelocity: high }) => ({ low, high }))).toEqual(velocityRanges(3))
    expect(layers('round robin').map(({ turn }) => turn)).toEqual([1, 2, 3])
    expect(layers('stack').map(({ turn, lowVelocity }) => [turn, lowVelocity])).toEqual([[null, 1], [null, 1], [null, 1]])
    expect(put('alternates').kit.pads[0]!.alternate).toBe(0)
  })

  it('on notes: the pad of a note gets the sound beside its own', () => {
    const placing = place(held, sounds(2), { type: 'in order', startNote: 36, gap: 0, adds: true })
    expect([names(placing, 0), names(placing, 1)]).toEqual([['Held 0', 'Clap 0'], ['Clap 1']])
    expect(placing.replaced).toEqual([])
  })

  it('by measured pitch, on the nearest note; sounds without a pitch are reported', () => {
    const placing = place(emptyKit('K'), [named('Low', 1, { pitchNote: 39.6 }), named('High', 2, { pitchNote: 44.2 }), named('Noise', 3)], { type: 'measured note' })
    expect(notes(placing)).toEqual([40, 44])
    expect(placing.notPlaced.map(({ sound, why }) => [sound.sound.name, why])).toEqual([['Noise', 'No pitch was measured. Put it on pads in order.']])
  })

  it('new sounds get the gain of the kit for them, and those that replace one keep its gain', () => {
    const quiet: Kit = { ...held, newSoundGainDb: -9 }
    const gains = (way: PlacingWay, pad: number) => place(quiet, sounds(2), way).kit.pads[pad]!.layers.map(layer => layer.gainDb)
    expect(gains({ type: 'in order', startNote: 37, gap: 0 }, 1)).toEqual([-9])
    expect(gains({ type: 'stack', padIndex: 0, adds: true }, 0)).toEqual([0, -9, -9])
    expect(placeSounds(quiet, 0, [named('Other', 9)]).kit.pads[0]!.layers[0]!.gainDb).toBe(0)
    expect(placeSounds(quiet, 3, [named('Other', 9)]).kit.pads[3]!.layers[0]!.gainDb).toBe(-9)
  })
})

describe('families', () => {
  const strokes = ['Snare_soft_rr1', 'Snare_soft_rr2', 'Snare_hard_rr2', 'Snare_hard_rr1', 'Snare_medium', 'Kick'].map((name, i) => named(name, i + 1, { kind: name.startsWith('Kick') ? 'kick' : 'snare' }))

  it('numbered takes become a round robin, soft, medium and hard become layers, on one pad', () => {
    const { kit, placed } = place(emptyKit('K'), strokes, { type: 'by kind', families: true })
    const snare = kit.pads.find(pad => pad.note === 38)!
    expect(snare.layers.map(layer => `${layer.sound.name} ${layer.lowVelocity}-${layer.highVelocity} ${layer.turn}`)).toEqual([
      'Snare_soft_rr1 1-41 1', 'Snare_soft_rr2 1-41 2', 'Snare_medium 42-83 null', 'Snare_hard_rr1 84-127 1', 'Snare_hard_rr2 84-127 2',
    ])
    expect(placed).toHaveLength(6)
    expect(kit.pads.find(pad => pad.note === 36)!.layers).toHaveLength(1)
  })

  it('a pad with several strokes is called what their names share, and anew when another sound takes their place', () => {
    const { kit } = place(emptyKit('K'), strokes, { type: 'by kind', families: true })
    expect(kit.pads.filter(pad => pad.layers.length > 0).map(pad => pad.name).sort()).toEqual(['Kick', 'Snare'])
    const index = kit.pads.findIndex(pad => pad.name === 'Snare')
    expect(placeSounds(kit, index, [named('Clap', 9)]).kit.pads[index]!.name).toBe('Clap')
    const renamed = setPads(kit, [index], { name: 'Mine' })
    expect(placeSounds(renamed, index, [named('Clap', 9)]).kit.pads[index]!.name).toBe('Mine')
    expect(place(emptyKit('K'), [named('Snare pp', 1), named('Snare ff', 2)], { type: 'velocity layers', padIndex: 0 }).kit.pads[0]!.name).toBe('Snare')
    expect(place(emptyKit('K'), [named('One', 1), named('Two', 2)], { type: 'stack', padIndex: 0 }).kit.pads[0]!.name).toBe('One')
  })

  it('a sound whose name is nothing but numbers is called by its kind too, and anew by the next one', () => {
    const kit = placeSounds(emptyKit('K'), 2, [named('013', 1, { kind: 'hat.closed' })]).kit
    expect(kit.pads[2]!.name).toBe('Closed hat 013')
    expect(placeSounds(setPads(kit, [2], { role: 'hat' }), 2, [named('7', 2, { kind: 'hat.open' })]).kit.pads[2]!.name).toBe('Open hat 7')
    expect(placeSounds(kit, 2, [named('Open 3', 2, { kind: 'hat.open' })]).kit.pads[2]!.name).toBe('Open 3')
    expect(placeSounds(emptyKit('K'), 2, [named('013', 1, { kind: null })]).kit.pads[2]!.name).toBe('013')
  })

  it('are told apart by their folders, and called after them where names tell strokes alone', () => {
    const drums = ['Toms/Rack 12', 'Toms/Floor 16'].flatMap((folder, i) => ['v1_rr1', 'v1_rr2', 'v2_rr1'].map((name, j) => named(name, 1 + 3 * i + j, { folder, kind: 'tom' })))
    const { kit } = place(emptyKit('K'), drums, { type: 'in order', startNote: 40, gap: 0, families: true })
    expect(kit.pads.filter(pad => pad.layers.length > 0).map(pad => [pad.name, pad.layers.length])).toEqual([['Toms Rack 12', 3], ['Floor 16', 3]])
  })

  it('leaves notes free between them for later additions', () => {
    expect(notes(place(emptyKit('K'), strokes, { type: 'in order', startNote: 40, gap: 3, families: true }))).toEqual([40, 40, 40, 40, 40, 44])
  })

  it('a held pad is not replaced, and that is reported', () => {
    const held = setPads(filled(3), [3], { held: true })
    const placing = place(held, sounds(2), { type: 'in order', startNote: 39, gap: 0 })
    expect(placing.kit.pads[3]!.layers[0]!.sound.name).toBe('Held 3')
    expect(placing.notPlaced[0]!.why).toBe('The pad is held. Let it go, or begin elsewhere.')
  })
})

describe('whatever the way', () => {
  const anySound = fc.record({ kind: fc.constantFrom('kick', 'hat.open', null), hitLufs: fc.option(fc.double({ min: -60, max: 0, noNaN: true })), pitchNote: fc.option(fc.double({ min: 0, max: 127, noNaN: true })), statedNote: fc.option(fc.integer({ min: 0, max: 127 })), name: fc.constantFrom('Tom_p', 'Tom_ff', 'x', 'Snare rr2') })
  const anyWay: fc.Arbitrary<PlacingWay> = fc.oneof(
    fc.record({ type: fc.constant('in order' as const), startNote: fc.integer({ min: 0, max: 127 }), gap: fc.nat(4), families: fc.boolean(), skipsTaken: fc.boolean() }),
    fc.record({ type: fc.constant('by pitch' as const), startNote: fc.integer({ min: 0, max: 127 }), isFalling: fc.boolean(), families: fc.boolean() }),
    fc.record({ type: fc.constantFrom('by kind' as const, 'stated note' as const, 'measured note' as const), families: fc.boolean(), adds: fc.boolean() }),
    fc.record({ type: fc.constant('velocity layers' as const), padIndex: fc.nat(15), byLevel: fc.boolean() }),
    fc.record({ type: fc.constantFrom('stack' as const, 'round robin' as const, 'alternates' as const), padIndex: fc.nat(15), adds: fc.boolean() }),
  )

  it('every sound is either on a pad or told of, the kit is whole, and nothing is replaced unsaid', () => {
    fc.assert(fc.property(fc.array(anySound, { maxLength: 140 }), anyWay, fc.uniqueArray(fc.nat(15), { maxLength: 8 }), (all, way, held) => {
      const before = filled(...held)
      const given = all.map(({ name, ...more }, i) => named(name, i + 1, more))
      const { kit, placed, notPlaced, replaced } = place(before, given, way)
      kitSchema.parse(kit)
      expect(placed.length + notPlaced.length).toBe(given.length)
      for (const { sound, padIndex } of placed) expect(kit.pads[padIndex]!.layers.map(layer => layer.sound.id)).toContain(sound.sound.id)
      before.pads.forEach((pad, index) => {
        const ids = (layers: readonly { readonly sound: { readonly id: string } }[]) => layers.map(layer => layer.sound.id)
        if (pad.layers.length > 0 && !replaced.includes(index)) expect(ids(kit.pads[index]!.layers).slice(0, pad.layers.length)).toEqual(ids(pad.layers))
        if (!way.adds && pad.layers.length > 0 && !replaced.includes(index)) expect(kit.pads[index]!.layers).toBe(pad.layers)
      })
    }), { numRuns: 60 })
  })
})
