import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import type { DecodedAudio } from '../../core/audio/decoded'
import { readSfzKit } from '../../core/formats/sfz/read'
import { firstInForce, withInForce } from '../../core/kit/articulations'
import type { Kit } from '../../core/kit/document'
import { parseKit } from '../../core/kit/migrate'
import { noteOn } from '../../core/kit/voices'
import { velocityLevel } from '../../core/kit/velocity'
import { identityOf } from '../../server/library/analyse'
import { sfzText } from '../../server/fit/sfzFiles'

/*
 * What common opcodes mean, each in a small file written by hand. Source unless said otherwise: SFZ v1 opcodes (references.md), from
 * memory. `sw_default`, `sw_label`, `off_mode=time`, `note_polyphony` and `#define`: as later players have them (common practice).
 */

const FRAMES = 1000

async function read(name: string) {
  const asked: string[] = []
  const decode = (path: string): Promise<DecodedAudio> => {
    asked.push(path)
    const seed = [...path].reduce((sum, letter) => sum * 31 % 9973 + letter.charCodeAt(0), 7)
    return Promise.resolve({ channels: [Float32Array.from({ length: FRAMES }, (_, i) => Math.sin(i * seed))], sampleRate: 44_100, frames: FRAMES, facts: { container: 'WAVE', codec: 'PCM', bitDepth: 24, embedded: {}, warnings: [] }, warnings: [] })
  }
  const made = await readSfzKit({ text: sfzText(readFileSync(join('tests/conformance/sfz', name))), path: name, name: 'Kit', decode, identify: identityOf })
  expect(parseKit(JSON.parse(JSON.stringify(made.kit)))).toEqual(made.kit)
  return { ...made, asked, pads: made.kit.pads.filter(pad => pad.layers.length > 0), found: made.notCarried.map(({ where }) => where) }
}

/** Names of the sounds that a note starts. */
function heard(kit: Kit, note: number, state: Parameters<typeof noteOn>[4] = {}): string[] {
  return noteOn(kit, [], note, 100, state).starts.map(({ padIndex, layerIndex }) => kit.pads[padIndex]!.layers[layerIndex]!.sound.name)
}

describe('SFZ as others read it', () => {
  it('end counts without a loop_mode', async () => {
    const { pads } = await read('end-without-loop-mode.sfz')
    expect(pads.map(pad => [pad.note, pad.layers[0]!.endFrame])).toEqual([[36, 100], [37, 100]])
  })

  it('a line comment may hold the sign of a block, and a block that of a line', async () => {
    const { pads, found } = await read('comments.sfz')
    expect(pads.map(pad => pad.note)).toEqual([36, 37, 38])
    expect(found).toEqual([])
  })

  it('key of a region stands against inherited lokey, hikey and pitch_keycenter', async () => {
    const { kit, pads } = await read('key-over-inherited.sfz')
    expect(pads.map(pad => [pad.note, pad.range && [pad.range.low, pad.range.high, pad.range.root]])).toEqual([[25, [20, 30, 25]], [36, null], [40, null]])
    expect(noteOn(kit, [], 36, 100).starts[0]!.pitchRatio).toBe(1)
    expect(noteOn(kit, [], 40, 100).starts[0]!.pitchRatio).toBeCloseTo(2 ** (2 / 12))
  })

  it('off_by cuts one way, at once, over a time, or as the release says', async () => {
    const { kit, pads } = await read('chokes.sfz')
    expect(pads.map(pad => pad.chokeSeconds)).toEqual([0, 0, 0.3, 0.5, 0])
    const running = (note: number) => noteOn(kit, [], note, 100).starts.map(start => ({ ...start, id: note }))
    const cutBy = (note: number) => noteOn(kit, [42, 46, 47, 48, 49].flatMap(running), note, 100).chokes
    expect(cutBy(42)).toEqual([46, 47, 48])
    expect(cutBy(46)).toEqual([])
    expect(cutBy(49)).toEqual([49])
  })

  it('sw_last chooses by the last key, sw_default at first; regions without it always sound', async () => {
    const { kit } = await read('switches.sfz')
    expect(kit.articulations.map(({ name, key }) => [name, key])).toEqual([['Sticks', 24], ['Brushes', 25]])
    expect(heard(kit, 36)).toEqual(['b'])
    const sticks = withInForce(firstInForce(kit), kit.articulations[0]!.id)
    expect([heard(kit, 36, { inForce: sticks }), heard(kit, 37, { inForce: sticks }), heard(kit, 37)]).toEqual([['a'], ['a'], ['a']])
  })

  it('sw_down sounds while its key is held, sw_up while it is not', async () => {
    const { kit } = await read('held-switch.sfz')
    const held = kit.articulations.find(one => one.whileHeld)!
    expect(held.key).toBe(20)
    expect([heard(kit, 36), heard(kit, 36, { inForce: withInForce(firstInForce(kit), held.id) })]).toEqual([['a'], ['b']])
  })

  it('amp_veltrack and amp_velcurve: 0 is full at every velocity, below 0 the softest is the loudest, points are joined straight', async () => {
    const { pads } = await read('velocity.sfz')
    const [flat, turned, curved] = pads
    expect([velocityLevel(flat!, 1), velocityLevel(flat!, 127)]).toEqual([1, 1])
    expect(velocityLevel(turned!, 127)).toBeCloseTo(0.5)
    expect(velocityLevel(turned!, 1)).toBeGreaterThan(0.99)
    expect([1, 2, 3, 127].map(velocity => velocityLevel(curved!, velocity))).toEqual([0.2, 0.25, 0.3, 1])
  })

  it('polyphony of a group is that of all its regions, note_polyphony that of a note', async () => {
    const { kit, pads } = await read('polyphony.sfz')
    expect(kit.groupPolyphony).toEqual([{ group: 4, voices: 2 }])
    expect(pads.map(pad => [pad.chokeGroup, pad.chokedBy, pad.polyphony])).toEqual([[4, [], null], [4, [], 1], [null, null, 3]])
  })

  it('seq_position with lorand: turns of which each is drawn', async () => {
    const { kit } = await read('random-in-turns.sfz')
    const hits = (count: number) => new Map(kit.pads[0]!.layers.map((_, i) => [`0:${i}`, count]))
    expect([[0, 0.2], [0, 0.7], [1, 0.2], [1, 0.7]].map(([count, chance]) => heard(kit, 36, { hits: hits(count!), chance: chance! }))).toEqual([['a'], ['b'], ['c'], ['d']])
  })

  it('loccN chooses by its controller, on_loccN is another thing and told', async () => {
    const { pads, notCarried } = await read('controllers.sfz')
    expect(pads.map(pad => [pad.note, pad.alternateController, pad.alternate])).toEqual([[36, 4, 0], [37, 20, 0], [38, null, null]])
    expect(notCarried).toMatchObject([{ where: 'on_locc64', loss: 'lost' }])
  })

  it('#define through another, and a $ that names nothing', async () => {
    const { pads, asked } = await read('defines.sfz')
    expect(pads.map(pad => pad.note)).toEqual([36, 38, 40])
    expect(asked).toEqual(['36hit.wav', 'a.wav', 'cost $5.wav'])
  })

  it('spaces around = are understood, but belong to a path; a key that is not a note plays nothing and is reported', async () => {
    const { pads, asked, notCarried } = await read('spaces.sfz')
    expect(pads.map(pad => [pad.note, pad.range, pad.layers[0]!.gainDb])).toEqual([[36, null, 3], [37, null, -3]])
    expect(asked).toEqual(['a = b.wav', 'a.wav'])
    expect(notCarried).toMatchObject([{ where: 'key=xyz', loss: 'lost' }])
  })

  it('more than sixteen in sequence', async () => {
    const { kit } = await read('sequence.sfz')
    expect(kit.pads[0]!.layers.map(layer => layer.turn)).toEqual(Array.from({ length: 40 }, (_, i) => i + 1))
  })

  it('names in Latin-1', async () => {
    expect((await read('latin-1.sfz')).asked).toEqual(['Fähre.wav'])
  })

  it('a range is one pad; a region of another root and pan is a layer of it', async () => {
    const { kit, pads } = await read('range.sfz')
    expect(pads.map(pad => [pad.note, pad.range])).toEqual([[54, { low: 48, high: 60, root: 54, trackCents: 50 }]])
    expect(noteOn(kit, [], 60, 100).starts.map(({ pitchRatio }) => pitchRatio)).toEqual([2 ** (300 / 1200), 1])
    expect(pads[0]!.layers.map(layer => layer.pan)).toEqual([null, 0.5])
  })

  it('opcodes that are not carried over are reported once each with their regions, losses first', async () => {
    const text = '<region> sample=*sine key=36\n<region> sample=a.wav key=37 eq1_gain=3 cutoff_cc1=200\n<region> sample=a.wav key=38 eq1_gain=3'
    const { notCarried } = await readSfzKit({ text, path: 'k.sfz', name: 'Kit', identify: identityOf, decode: () => Promise.resolve({ channels: [new Float32Array(9)], sampleRate: 44_100, frames: 9, facts: { container: 'WAVE', codec: 'PCM', bitDepth: 24, embedded: {}, warnings: [] }, warnings: [] }) })
    expect(notCarried.map(({ where, loss }) => [where, loss])).toEqual([['*sine', 'lost'], ['eq1_gain', 'changed'], ['cutoff_cc1', 'unheard']])
    expect(notCarried[1]!.what).toContain('2 regions')
  })
})
