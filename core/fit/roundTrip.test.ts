import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fit, kitOf, layerOf, Sounds, target } from '../../tests/helpers/fit'
import { readBack } from '../../tests/helpers/foreign'
import type { ReadAudio } from '../formats/read'
import { PLAIN_ENVELOPE, type Kit, type Layer, type Pad } from '../kit/document'
import { firstInForce, withInForce, type InForce } from '../kit/articulations'
import { notesOf } from '../kit/noteEdits'
import { velocityRanges } from '../kit/ranges'
import type { HitCounts } from '../kit/turns'
import { noteOn, type VoiceStart } from '../kit/voices'
import { renderKit } from '../render/offline'
import { prepareSound } from '../render/prepare'
import type { Target } from './target'
import { writeForTarget } from './write'

const RATE = 48_000
const sounds = new Sounds()
const hits = [1, 2, 3, 4, 5, 6].map(seed => sounds.hit(`Hit ${seed}`, seed, { seconds: 0.05 + seed / 100, stereo: seed % 3 === 0, sampleRate: seed % 2 === 0 ? 48_000 : 44_100 }))

/**
 * At the rate of the engine, so that nothing is converted on the way to the ear, and played from their start: where a trim cuts into a
 * sound, a tuned voice of the kit reads on beyond it.
 */
const plainHits = [7, 8, 9].map(seed => sounds.hit(`Hit ${seed}`, seed, { seconds: 0.05 + seed / 100, stereo: seed === 9 }))

const layerOfAny = (all: typeof hits, starts: readonly number[]) => fc.record({
  sound: fc.constantFrom(...all),
  gainDb: fc.integer({ min: -12, max: 0 }),
  tuneCents: fc.constantFrom(0, 0, 0, 150, -300),
  reverse: fc.boolean(),
  start: fc.constantFrom(...starts),
  fadeOut: fc.constantFrom(0, 400),
  pan: fc.constantFrom(null, null, -1, 0.25),
  envelope: fc.constantFrom(null, null, { attackSeconds: 0, holdSeconds: 0, decaySeconds: 0.1, releaseSeconds: 0.05 }),
  filter: fc.constantFrom(null, null, { type: 'low-pass' as const, cutoffHz: 900, resonanceDb: 0 }),
}).map(({ sound, start, fadeOut, ...settings }): Layer => layerOf(sound, { ...settings, startFrame: start, fadeOutFrames: fadeOut }))

const shape = fc.constantFrom('velocity', 'turns', 'alternates', 'stack', 'fades', 'chance' as const)

const padOfAny = (all: typeof hits, starts: readonly number[]): fc.Arbitrary<Partial<Pad>> => fc.record({
  layers: fc.array(layerOfAny(all, starts), { minLength: 1, maxLength: 3 }),
  shape,
  gainDb: fc.integer({ min: -9, max: 0 }),
  pan: fc.constantFrom(0, 0, -0.5, 1),
  tuneCents: fc.constantFrom(0, 0, 200),
  play: fc.constantFrom('one-shot' as const, 'one-shot' as const, 'gated' as const),
  chokeGroup: fc.option(fc.integer({ min: 1, max: 4 })),
  chokedBy: fc.constantFrom<Pad['chokedBy'][]>(null, null, [], [2]),
  chokeSeconds: fc.constantFrom(0, 0, 0.25),
  velocityTrack: fc.constantFrom(1, 1, 0, -0.5),
  velocityCurve: fc.constantFrom<Pad['velocityCurve'][]>(null, null, [{ velocity: 1, level: 0.2 }, { velocity: 60, level: 0.9 }]),
  articulation: fc.constantFrom(null, null, 'sticks', 'brushes'),
  filter: fc.option(fc.record({ type: fc.constantFrom('low-pass' as const, 'high-pass' as const), cutoffHz: fc.constantFrom(400, 2000), resonanceDb: fc.constantFrom(0, 6) })),
  driveDb: fc.constantFrom(0, 0, 9),
  envelope: fc.constantFrom(PLAIN_ENVELOPE, PLAIN_ENVELOPE, { attackSeconds: 0.004, holdSeconds: 0.01, decaySeconds: 0.06, releaseSeconds: 0.05 }),
}).map(({ layers, shape, ...settings }) => {
  const ranges = velocityRanges(layers.length)
  const shaped = layers.map((one, i): Layer => {
    if (shape === 'velocity') return { ...one, lowVelocity: ranges[i]!.low, highVelocity: ranges[i]!.high }
    if (shape === 'turns') return { ...one, turn: layers.length > 1 ? i + 1 : null }
    if (shape === 'chance') return { ...one, chance: layers.length > 1 ? { low: i / layers.length, high: (i + 1) / layers.length } : null }
    if (shape === 'fades') return { ...one, lowVelocity: ranges[i]!.low, highVelocity: Math.min(127, ranges[i]!.high + 8), fadeOutVelocities: i < layers.length - 1 ? 8 : 0, fadeInVelocities: i > 0 ? 8 : 0 }
    return one
  })
  return { ...settings, layers: shaped, alternate: shape === 'alternates' ? 40 : null }
})




const kitsOfAny = (all: typeof hits, starts: readonly number[]) => fc.record({
  pads: fc.array(padOfAny(all, starts), { minLength: 1, maxLength: 4 }),
  range: fc.option(fc.record({ below: fc.nat(12), above: fc.nat(12), root: fc.integer({ min: 50, max: 70 }), trackCents: fc.constantFrom(100, 50, 0) })),
}).map(({ pads, range }): Kit => {
  // Where a format has no articulations, the first pad is left.
  const kit = kitOf(pads.map((one, i) => ({ name: `Pad ${i + 1}`, ...one, ...i === 0 ? { articulation: null } : {} })))
  const last = pads.length - 1
  // Above the notes of all others.
  const spread = range && { note: 60, range: { low: 60 - range.below, high: 60 + range.above, root: range.root, trackCents: range.trackCents } }
  return { ...kit, articulations: ARTICULATIONS, articulation: 'brushes', groupPolyphony: [{ group: 2, voices: 3 }], pads: spread ? kit.pads.with(last, { ...kit.pads[last]!, ...spread }) : kit.pads }
})
const ARTICULATIONS = ['sticks', 'brushes'].map((id, i) => ({ id, name: id, key: 10 + i, whileHeld: false }))

/** What a hit starts, in figures that do not depend on how sounds are named or pads numbered. */
function heard(kit: Kit, audio: Levels, note: number, velocity: number, counts: HitCounts, chance: number, inForce: InForce): { starts: VoiceStart[], counted: readonly string[] } {
  const { starts, counted } = noteOn(kit, [], note, velocity, { hits: counts, chance, inForce })
  // A format may store a sample lower and play it higher: what counts is how loud it comes.
  const scaled = starts.map((start) => {
    const level = levelOf(audio.get(start.soundId)!.channels)
    return { ...start, gainLeft: start.gainLeft * level, gainRight: start.gainRight * level }
  })
  return { starts: scaled.toSorted((a, b) => a.endFrame - b.endFrame || a.pitchRatio - b.pitchRatio || (a.filter?.cutoffHz ?? 0) - (b.filter?.cutoffHz ?? 0) || (a.envelope.decaySeconds ?? 99) - (b.envelope.decaySeconds ?? 99) || a.gainLeft - b.gainLeft), counted }
}

type Levels = ReadonlyMap<string, { readonly channels: readonly Float32Array[] }>

function levelOf([first]: readonly Float32Array[]): number {
  return Math.sqrt(first!.reduce((sum, value) => sum + value * value, 0) / first!.length)
}

function expectSame(one: VoiceStart, other: VoiceStart): void {
  expect(other.endFrame - other.startFrame).toBe(one.endFrame - one.startFrame)
  for (const side of ['gainLeft', 'gainRight'] as const) expect(Math.abs(other[side] - one[side])).toBeLessThan(0.002 + one[side] * 0.002)
  expect(other.pitchRatio).toBeCloseTo(one.pitchRatio, 4)
  expect([other.gated, other.chokeGroup, other.chokedBy]).toEqual([one.gated, one.chokeGroup, one.chokedBy])
  if (one.chokedBy.length > 0) expect(other.chokeSeconds).toBeCloseTo(one.chokeSeconds, 5)
  expect(other.envelope.attackSeconds).toBeCloseTo(one.envelope.attackSeconds, 2)
  if (one.envelope.decaySeconds === null) expect(other.envelope.decaySeconds).toBeNull()
  else expect(other.envelope.decaySeconds! / one.envelope.decaySeconds).toBeCloseTo(1, 2)
  expect(other.filter?.type).toBe(one.filter?.type)
  if (one.filter) expect(other.filter!.cutoffHz / one.filter.cutoffHz).toBeCloseTo(1, 2)
}

async function comesBack(kit: Kit, wanted: Target): Promise<void> {
  const { made } = fit(kit, sounds, wanted)
  const read = await readBack(writeForTarget(made, wanted), wanted)
  expect(read.missing).toEqual([])
  expect(read.notCarried).toEqual([])
  const notes = [...new Set(made.kit.pads.filter(one => one.layers.length > 0).flatMap(notesOf))]
  for (const [place, note] of notes.entries()) {
    const inForce = (of: Kit) => place % 2 === 0 ? firstInForce(of) : of.articulations.reduce((now, one) => one.key === 10 && of.pads.some(pad => pad.articulation === one.id) ? withInForce(now, one.id) : now, firstInForce(of))
    for (const velocity of [1, 20, 42, 43, 64, 84, 90, 127]) {
      let [a, b] = [new Map<string, number>(), new Map<string, number>()]
      for (let turn = 0; turn < 3; turn++) {
        const [before, after] = [heard(made.kit, made.samples, note, velocity, a, (turn + 0.5) / 3, inForce(made.kit)), heard(read.kit, read.audio, note, velocity, b, (turn + 0.5) / 3, inForce(read.kit))]
        expect(after.starts).toHaveLength(before.starts.length)
        before.starts.forEach((start, i) => expectSame(start, after.starts[i]!))
        a = counted(a, before.counted)
        b = counted(b, after.counted)
      }
    }
  }
}

function counted(counts: HitCounts, keys: readonly string[]): Map<string, number> {
  const next = new Map(counts)
  for (const key of keys) next.set(key, (next.get(key) ?? 0) + 1)
  return next
}

describe('kit to format and back', () => {
  it.each(['sfz', 'sf2', 'dls-2', 'samples', 'kerkouros', 'akatos', 'holkas'])('%s: every note sounds as it was written', async (id) => {
    await fc.assert(fc.asyncProperty(kitsOfAny(hits, [0, 100]), kit => comesBack(kit, target(id))), { numRuns: 25 })
  })
})

/** Level of the difference of two renderings under the first, in dB. */
function differenceDb(one: { left: Float32Array, right: Float32Array }, other: { left: Float32Array, right: Float32Array }): number {
  let [sum, whole] = [0, 0]
  for (const side of ['left', 'right'] as const) {
    for (let i = 0; i < Math.max(one[side].length, other[side].length); i++) {
      sum += ((one[side][i] ?? 0) - (other[side][i] ?? 0)) ** 2
      whole += (one[side][i] ?? 0) ** 2
    }
  }
  return 10 * Math.log10(sum / whole)
}

const audioOf = (audio: ReadonlyMap<string, Pick<ReadAudio, 'channels' | 'sampleRate'>>) => new Map([...audio].map(([id, one]) => [id, prepareSound({ channels: one.channels, sampleRate: one.sampleRate }, RATE)]))

describe('what is put into the samples', () => {
  it.each(['sfz', 'sf2', 'samples'])('%s: a hit at full velocity sounds as the kit did, where nothing was reported', (id) => {
    fc.assert(fc.property(kitsOfAny(plainHits, [0]), (kit) => {
      const { made, plan, loweredDb } = fit(kit, sounds, target(id))
      const asWritten = audioOf(new Map([...made.samples].map(([key, sample]) => [key, sample])))
      const before = audioOf(sounds.audio)
      for (const one of plan.pads) {
        const { padIndex } = one
        if (one.warnings.length > 0 || plan.rows.some(row => row.padIndex === padIndex && row.state !== 'kept')) continue
        const place = kit.pads[padIndex]!
        // The one that is not in force is silent in both.
        if (place.articulation === 'sticks') continue
        const single = (source: Kit, note: number) => ({ ...source, pads: source.pads.map(each => each.note === note ? each : { ...each, layers: [] }) })
        const render = (source: Kit, prepared: typeof before) => renderKit(single(source, place.note), prepared, [{ atSeconds: 0, note: place.note, velocity: 127, lengthSeconds: 0.4 }], { sampleRate: RATE, longestSeconds: 2 })
        const [was, is] = [render(kit, before), render(made.kit, asWritten)]
        const lowered = 10 ** (-loweredDb / 20)
        expect(differenceDb(was, { left: is.left.map(v => v * lowered), right: is.right.map(v => v * lowered) })).toBeLessThan(-35)
      }
    }), { numRuns: 25 })
  })
})
