import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { peakOf, rmsOf, sine } from '../../tests/helpers/audio'
import { toDb } from '../audio/level'
import { assignParts } from '../groove/assign'
import { playedFromBeats, playedOn } from '../groove/played'
import { SHIPPED_PATTERNS } from '../groove/shipped'
import { patternFromSteps } from '../groove/steps'
import { emptyKit, wholeLayer, type Kit, type Pad } from '../kit/document'
import { bounceBlocks, bounceFrames, type BounceRequest } from './bounce'
import { joinKits } from '../kit/joinKits'
import { planStems, shareStems, stemFileName } from './stems'
import type { PreparedSound } from './voice'

const RATE = 48_000

/** Sixteen pads of kinds, each with a decaying tone of its own, some panned, some tuned, hats choking each other. */
const ROLES = ['kick', 'snare', 'hat.closed', 'hat.open', 'clap', 'rim', 'tom.low', 'tom.high', 'cymbal.ride', 'shaker', 'hand.conga', 'metal.cowbell', 'wood.block', 'snap', 'cymbal.crash', 'voice']
const SOUNDS = new Map(ROLES.map((_, i): [string, PreparedSound] => [String(i).padStart(64, '0'), { channels: [sine(80 + i * 190, RATE, 9_000 + i * 1_500, 0.4).map((value, t) => value * Math.exp(-t / 4_000))], sourceRate: RATE }]))
const KIT: Kit = {
  ...emptyKit('Night kit'),
  outputs: [{ id: 'main', name: 'Main' }, { id: 'metal', name: 'Metal' }],
  pads: emptyKit('').pads.map((pad, i): Pad => ({
    ...pad, role: ROLES[i]!, name: ROLES[i]!, pan: i % 3 - 1, tuneCents: i % 4 === 1 ? 300 : 0, chokeGroup: ROLES[i]!.startsWith('hat') ? 1 : null, output: i > 7 ? 'metal' : 'main',
    layers: [wholeLayer({ id: String(i).padStart(64, '0'), name: 's', frames: 9_000 + i * 1_500, sampleRate: RATE, channels: 1 })],
  })),
}

function request(name: string, change: Partial<BounceRequest> = {}): BounceRequest {
  const pattern = patternFromSteps(SHIPPED_PATTERNS.find(written => written.name === name)!)
  return { kit: KIT, sounds: SOUNDS, pattern: playedOn(pattern, KIT, assignParts(pattern, KIT, 'kind')), bpm: pattern.tempoBpm, passes: 1, tail: 'with', sampleRate: RATE, ...change }
}

/** A bounce whole: left and right of each stem. */
function whole(asked: BounceRequest): [Float32Array, Float32Array][] {
  const blocks = Array.from(bounceBlocks(asked), block => block.map(([left, right]) => [left.slice(), right.slice()] as const))
  return Array.from({ length: asked.stems?.count ?? 1 }, (_, stem) => [0, 1].map((side) => {
    const parts = blocks.map(block => block[stem]![side]!)
    const out = new Float32Array(parts.reduce((sum, part) => sum + part.length, 0))
    let at = 0
    for (const part of parts) {
      out.set(part, at)
      at += part.length
    }
    return out
  }) as [Float32Array, Float32Array])
}

describe('stems', () => {
  it.each(['pad', 'kind', 'output'] as const)('by %s are of one length, and their sum is the mix to below -90 dB', (way) => {
    const asked = request('Propeller shaft', { passes: 2 })
    const plan = planStems(KIT, asked.pattern, way)
    const [mix] = whole(asked)
    const stems = whole({ ...asked, stems: { count: plan.stems.length, of: plan.of } })
    expect(new Set(stems.map(([left]) => left.length))).toEqual(new Set([mix![0].length]))
    for (const side of [0, 1] as const) {
      const difference = mix![side].map((value, i) => stems.reduce((sum, stem) => sum - stem[side][i]!, value))
      expect(toDb(peakOf(difference))).toBeLessThan(-90)
      expect(toDb(rmsOf(mix![side]))).toBeGreaterThan(-40)
    }
  })

  it('are the same to the sample where some alone are rendered, though the others choke and end as they did', () => {
    const asked = request('Propeller shaft', { passes: 2 })
    const plan = planStems(KIT, asked.pattern, 'pad')
    const all = whole({ ...asked, stems: { count: plan.stems.length, of: plan.of } })
    const open = plan.stems.findIndex(stem => stem.name === 'hat.open')
    const alone = whole({ ...asked, stems: { count: 1, of: plan.of.map(stem => stem === open ? 0 : -1) } })
    expect(alone).toHaveLength(1)
    expect(rmsOf(alone[0]![0])).toBeGreaterThan(0)
    expect(alone[0]).toEqual(all[open])
  })

  it('are one for each pad, kind or output that is played, in the order of the kit', () => {
    const { pattern } = request('Propeller shaft')
    expect(planStems(KIT, pattern, 'pad').stems.map(stem => `${stem.pad} ${stem.name}`)).toEqual(['A1 kick', 'A3 hat.closed', 'A4 hat.open', 'A5 clap', 'A6 rim'])
    expect(planStems(KIT, pattern, 'kind').stems.map(stem => stem.name)).toEqual(['Kick', 'Hat', 'Clap', 'Rim'])
    expect(planStems(KIT, pattern, 'output').stems.map(stem => stem.name)).toEqual(['Main'])
  })

  it('are shared out once each, and none has more to do than the dearest stem above the least', () => {
    const { pattern } = request('Propeller shaft')
    fc.assert(fc.property(fc.array(fc.nat(15), { minLength: 1, maxLength: 200 }), fc.integer({ min: 1, max: 8 }), fc.integer({ min: 1, max: 1_000_000 }), (pads, threads, frames) => {
      const played = { ...pattern, notes: Uint16Array.from(pads, pad => KIT.pads[pad]!.note) }
      const plan = planStems(KIT, played, 'pad')
      const shares = shareStems(KIT, played, plan, frames, threads)
      expect(shares.length).toBe(Math.min(threads, plan.stems.length))
      expect(shares.flat().sort((a, b) => a - b)).toEqual(plan.stems.map((_, i) => i))
      const cost = (stem: number) => 6 * frames + pads.filter(pad => plan.of[pad] === stem).reduce((sum, pad) => sum + 9_000 + pad * 1_500, 0)
      const costs = shares.map(stems => stems.reduce((sum, stem) => sum + cost(stem), 0))
      expect(Math.max(...costs) - Math.min(...costs)).toBeLessThanOrEqual(Math.max(...plan.stems.map((_, i) => cost(i))))
    }))
  })

  it('are named by the parts that were chosen', () => {
    const [stem] = planStems(KIT, request('Gangway').pattern, 'pad').stems
    const about = { index: 6, count: 12, pattern: 'Gangway', bpm: 96 }
    expect(stemFileName(['number', 'kind', 'pad', 'note', 'tempo'], stem!, about)).toBe('07 Kick A1 36 96 BPM')
    expect(stemFileName(['pattern', 'kit', 'name'], { ...stem!, kit: 'Night kit' }, about)).toBe('Gangway Night kit kick')
    expect(stemFileName([], stem!, about)).toBe('07')
  })

  it('say nothing twice: neither the pattern or kit that another part names, nor the kind where the sound is called so', () => {
    const [stem] = planStems(KIT, request('Gangway').pattern, 'pad').stems
    const about = { index: 0, count: 2, pattern: 'Night', bpm: 96 }
    expect(stemFileName(['number', 'pattern', 'kit', 'name'], { ...stem!, kit: 'Night kicks', name: 'Night kicks: Main' }, about)).toBe('01 Night kicks: Main')
    expect(stemFileName(['kind', 'name'], { ...stem!, kind: 'Kick', name: 'kick' }, about)).toBe('Kick')
    expect(stemFileName(['name', 'kind'], { ...stem!, kind: 'Tom', name: 'Atoms' }, about)).toBe('Atoms Tom')
  })

  it('of several kits follow the rows, and each names its own kit and the pad as that kit counts it', () => {
    const [one, other] = [{ ...KIT, name: 'Deck' }, { ...KIT, name: 'Hold' }]
    const joined = joinKits([one, other])
    const notes = [KIT.pads[3]!.note + 128, KIT.pads[0]!.note, KIT.pads[0]!.note + 128]
    expect(planStems(joined, { notes: Uint16Array.from(notes) }, 'pad', ['Deck', 'Hold']).stems.map(({ kit, pad }) => `${kit} ${pad}`)).toEqual(['Deck A1', 'Hold A1', 'Hold A4'])
    expect(planStems(joined, { notes: Uint16Array.from(notes) }, 'kind', ['Deck', 'Hold']).stems.map(({ kit, name }) => `${name}: ${kit}`)).toEqual(['Kick: Deck and Hold', 'Hat: Hold'])
  })
})

describe('the tail of a bounce', () => {
  it('is rendered to its end, or cut to the length of the bars without a click', () => {
    const asked = request('Gangway')
    const frames = bounceFrames(asked)
    // One bar of four quarters at 96 beats a minute is 2.5 seconds.
    expect(frames).toBe(2.5 * RATE)
    const [cut] = whole({ ...asked, tail: 'without' })
    expect(cut![0].length).toBe(frames)
    expect(Math.abs(cut![0].at(-1)!)).toBeLessThan(1e-4)
    const ringing = request('Fish market')
    expect(whole(ringing)[0]![0].length).toBeGreaterThan(bounceFrames(ringing))
  })

  it('folded under the beginning it is what a second pass sounds like, so that the loop has no seam', () => {
    for (const name of ['Gangway', 'Far buoy', 'Fish market', 'Propeller shaft']) {
      // At 100 beats a minute a pass is a whole number of frames.
      const asked = request(name, { tail: 'folded', bpm: 100 })
      const [loop] = whole(asked)
      const [long] = whole({ ...asked, passes: 4, tail: 'without' })
      const frames = bounceFrames(asked)
      expect(loop![0].length).toBe(frames)
      // The third of four passes: what goes before it lies under its beginning, and nothing is cut at its end.
      const third = long![0].slice(2 * frames, 3 * frames)
      const difference = loop![0].map((value, i) => value - third[i]!)
      expect(toDb(peakOf(difference))).toBeLessThan(-80)
      expect(peakOf(loop![0])).toBeGreaterThan(0.05)
    }
  })
})

describe('hits of a bounce', () => {
  it('begin on their very frames', () => {
    const impulse = new Map<string, PreparedSound>([['0'.repeat(64), { channels: [Float32Array.of(1)], sourceRate: RATE }]])
    const kit: Kit = { ...KIT, pads: KIT.pads.slice(0, 1).map(pad => ({ ...pad, pan: 0, layers: [wholeLayer({ id: '0'.repeat(64), name: 'i', frames: 1, sampleRate: RATE, channels: 1 })] })) }
    const beats = [0, 0.75, 1.5, 3.123]
    const pattern = playedFromBeats(4, beats.map(beat => ({ beat, note: 36, velocity: 127 })))
    const [out] = whole({ kit, sounds: impulse, pattern, bpm: 133, passes: 3, tail: 'without', sampleRate: RATE })
    const found = [...out![0]].flatMap((value, frame) => value > 0.5 ? [frame] : [])
    const perBeat = RATE * 60 / 133
    expect(found).toEqual([0, 1, 2].flatMap(pass => beats.map(beat => Math.round((pass * 4 + beat) * perBeat))))
  })
})

describe('kits as one', () => {
  it('keep notes, chokes and outputs apart, and sound as each does', () => {
    const second: Kit = { ...KIT, name: 'Day kit', gainDb: -6 }
    const joined = joinKits([KIT, second])
    expect(joined.pads).toHaveLength(32)
    expect(joined.pads[16]).toMatchObject({ note: 164, gainDb: -6, output: '1/main' })
    expect(joined.pads.filter(pad => pad.chokeGroup !== null).map(pad => pad.chokeGroup)).toEqual([1, 1, 33, 33])
    expect(joined.outputs.map(output => output.name)).toEqual(['Night kit: Main', 'Night kit: Metal', 'Day kit: Main', 'Day kit: Metal'])
    expect(joinKits([KIT])).toBe(KIT)
    const asked = request('Gangway')
    const [alone] = whole(asked)
    const shifted = { ...asked.pattern, notes: asked.pattern.notes.map(note => note + 128) }
    const [half] = whole({ ...asked, kit: joined, pattern: shifted })
    expect(toDb(peakOf(half![0]) / peakOf(alone![0]))).toBeCloseTo(-6, 1)
  })
})
