import { describe, expect, it } from 'vitest'
import { fit, kitOf, layerOf, NO_WISHES, planOnly, Sounds, target } from '../../tests/helpers/fit'
import { velocityRanges } from '../kit/ranges'
import { distanceDb, lossOf, ratioOfDistance } from './cost'
import type { Target } from './target'
import { weightOf } from './units'
import { overOf } from './usage'
import { variantsOf } from './variants'

const sounds = new Sounds()
const lembos = target('lembos')
const small = (seconds: number): Target => ({ ...lembos, limits: { ...lembos.limits, seconds } })

describe('a plan', () => {
  it('changes nothing that need not change: rates and widths of the target, and no cut', () => {
    const { plan } = fit(kitOf([{ layers: [layerOf(sounds.hit('Kick', 1, { seconds: 1 }))] }]), sounds, lembos)
    expect(plan.rows.map(row => [row.state, row.variant!.sampleRate, row.variant!.channels, row.variant!.depth, row.variant!.fromFrame, row.variant!.toFrame])).toEqual([['kept', 44_100, 1, 16, 0, 48_000]])
    expect(overOf(plan.after, lembos)).toEqual([])
  })

  it('meets a limit of seconds by cutting the ends that are heard least', () => {
    const kit = kitOf([1, 2, 3].map(seed => ({ layers: [layerOf(sounds.hit(`Hit ${seed}`, seed, { seconds: 1 }))] })))
    const plan = planOnly(kit, sounds, small(2))
    expect(plan.shortfalls).toEqual([])
    expect(plan.after.seconds).toBeLessThanOrEqual(2)
    expect(plan.rows.every(row => row.state === 'kept')).toBe(true)
  })

  it('keeps a pad whose length is held while others can give way, and lets it go where they cannot', () => {
    const kit = kitOf([1, 2, 3].map(seed => ({ layers: [layerOf(sounds.hit(`Held ${seed}`, seed, { seconds: 1 }))] })))
    const holds = { 0: { length: true } }
    const tight = planOnly(kit, sounds, small(1.06), { holds, importance: { 0: 'low', 1: 'high', 2: 'high' } })
    expect(tight.shortfalls).toEqual([])
    expect(tight.rows[0]).toMatchObject({ state: 'kept', variant: { toFrame: 48_000 } })
    const tighter = planOnly(kit, sounds, small(0.5), { holds, importance: {} })
    expect(tighter.shortfalls).toEqual([])
    expect(tighter.rows.map(row => row.state)).toEqual(['left out', 'kept', 'kept'])
  })

  it('keeps the layers of a pad alike: all stereo, or none, where that costs little more', () => {
    const ranges = velocityRanges(3)
    const wanted = { ...target('sfz'), audio: { ...target('sfz').audio, depths: [16] as const, rates: [48_000] } }
    // Nearly the same on both sides: to be made mono costs little, and least where it is hit softly.
    const layers = ranges.map(({ low: lowVelocity, high: highVelocity }, i) => {
      const [left, other] = sounds.of(layerOf(sounds.hit(`Wide ${i}`, 20 + i, { seconds: 0.3, stereo: true }))).channels
      return layerOf(sounds.add(`Narrow ${i}`, [left!, left!.map((value, at) => value + 0.05 * other![at]!)], 48_000), { lowVelocity, highVelocity })
    })
    const kit = kitOf([{ layers }])
    const whole = planOnly(kit, sounds, wanted).after.bytes
    for (const part of [0.95, 0.8, 0.65, 0.51]) {
      const { rows } = planOnly(kit, sounds, { ...wanted, limits: { ...wanted.limits, bytes: Math.round(whole * part) } }, { holds: { 0: { length: true, layers: true, bandwidth: true } }, importance: {} })
      expect(new Set(rows.flatMap(row => row.variant?.channels ?? [])).size).toBe(1)
    }
  })

  it('costs what trying every combination finds, on small kits', () => {
    const kit = kitOf([1, 2, 3, 4].map(seed => ({ layers: [layerOf(sounds.hit(`Hit ${seed}`, seed, { seconds: 0.2 + seed / 10 }))] })))
    for (const seconds of [0.9, 0.6, 0.4, 0.2, 0.1]) {
      const wanted = small(seconds)
      const plan = planOnly(kit, sounds, wanted)
      const options = plan.rows.map(row => [
        ...variantsOf(row.measure, wanted, {}, { seconds: true, bytes: false }, 0).map(variant => ({ seconds: variant.seconds, cost: variant.loss })),
        // Leaving out a pad of normal importance.
        { seconds: 0, cost: 3 },
      ])
      const best = (at: number, left: number): number => left < -1e-9 ? Infinity : at === options.length ? 0 : Math.min(...options[at]!.map(option => option.cost + best(at + 1, left - option.seconds)))
      expect(plan.cost).toBeCloseTo(best(0, seconds), 9)
    }
  })

  it('drops the layers that differ least from those that take their place, as trying every set finds', () => {
    const ranges = velocityRanges(5)
    // Layers 2 and 3 are nearly the same; the others differ.
    const layers = [1, 2, 2, 9, 5].map((seed, i) => layerOf(sounds.hit(`Layer ${i}`, seed, { level: 0.3 + i / 10 }), { lowVelocity: ranges[i]!.low, highVelocity: ranges[i]!.high }))
    const kit = kitOf([{ layers }])
    const plan = planOnly(kit, sounds, target('akatos'))
    const kept = plan.rows.filter(row => row.state === 'kept').map(row => row.at)
    const measures = plan.rows.map(row => row.measure)
    const share = (i: number) => weightOf({ lowVelocity: ranges[i]!.low, highVelocity: ranges[i]!.high })
    const costOf = (set: readonly number[]) => ranges.map((_, i) => i).filter(i => !set.includes(i)).reduce((sum, i) => {
      const near = [set.filter(k => k < i).at(-1), set.find(k => k > i)].filter(k => k !== undefined)
      return sum + share(i) * Math.min(...near.map(k => lossOf(ratioOfDistance(distanceDb(measures[i]!, measures[k]!)))))
    }, 0)
    const sets = Array.from({ length: 31 }, (_, bits) => [0, 1, 2, 3, 4].filter(i => (bits + 1) >> i & 1)).filter(set => set.length <= 4)
    expect(costOf(kept)).toBeCloseTo(Math.min(...sets.map(costOf)), 9)
    expect(kept).toHaveLength(4)
  })

  it('keeps what is held and plans the rest anew', () => {
    const kit = kitOf([1, 2, 3].map(seed => ({ layers: [layerOf(sounds.hit(`Hit ${seed}`, seed, { seconds: 1 }))] })))
    const free = planOnly(kit, sounds, small(2))
    const held = planOnly(kit, sounds, small(2), { holds: { 1: { length: true } }, importance: {} })
    expect(free.rows[1]!.variant!.toFrame).toBeLessThan(48_000)
    expect(held.rows[1]!.variant!.toFrame).toBe(48_000)
    expect(held.after.seconds).toBeLessThanOrEqual(2)
    expect(held.cost).toBeGreaterThanOrEqual(free.cost)
  })

  it('that would have to cut what is held whole says so, and how long it may be', () => {
    const kit = kitOf([{ layers: [layerOf(sounds.hit('Crash', 1, { seconds: 16 }))] }, { layers: [layerOf(sounds.hit('Kick', 2))] }])
    const akatos = target('akatos')
    expect(planOnly(kit, sounds, akatos)).toMatchObject({ shortfalls: [], after: { longestSeconds: 15 } })
    const held = planOnly(kit, sounds, akatos, { holds: { 0: { length: true } }, importance: {} })
    expect(held.shortfalls).toMatchObject([{ meter: 'longestSeconds', needed: 16, room: 15 }])
    expect(planOnly(kit, sounds, akatos, { holds: { 1: { length: true } }, importance: {} }).shortfalls).toEqual([])
  })

  it('leaves out the pads that matter least where there are too many', () => {
    const kit = kitOf(Array.from({ length: 16 }, (_, i) => ({ layers: [layerOf(sounds.hit(`Hit ${i}`, i + 1))] })))
    const wanted: Target = { ...lembos, pads: { banks: 1, inBank: 14, columns: 4 } }
    const plan = planOnly(kit, sounds, wanted, { holds: {}, importance: { 3: 'low', 7: 'low' } })
    expect(plan.rows.filter(row => row.state === 'left out').map(row => row.padIndex)).toEqual([3, 7])
    const kept = planOnly(kit, sounds, wanted, { holds: { 3: { pad: true } }, importance: { 3: 'low', 7: 'low' } })
    expect(kept.rows.filter(row => row.state === 'left out').map(row => row.padIndex)).not.toContain(3)
  })

  it('of many of a kind leaves out one that sounds like another, before the only one of its kind', () => {
    const roles = ['kick', 'kick', 'kick', 'snare', 'hat.open', 'cymbal.ride']
    const seeds = [1, 1, 40, 5, 6, 7]
    const kit = kitOf(roles.map((role, i) => ({ role, layers: [layerOf(sounds.hit(`${role} ${i}`, seeds[i]!, { level: 0.5 - i / 100, seconds: role === 'cymbal.ride' ? 2 : 0.2 }))] })))
    const plan = planOnly(kit, sounds, { ...lembos, pads: { banks: 1, inBank: 5, columns: 5 } })
    expect(plan.rows.filter(row => row.state === 'left out')).toHaveLength(1)
    expect([0, 1]).toContain(plan.rows.find(row => row.state === 'left out')!.padIndex)
  })

  it('that cannot be met says which limit, how much is needed and how much there is', () => {
    const kit = kitOf([1, 2].map(seed => ({ layers: [layerOf(sounds.hit(`Hit ${seed}`, seed, { seconds: 1 }))] })))
    const plan = planOnly(kit, sounds, small(0.5), { holds: { 0: { length: true, pad: true }, 1: { length: true, pad: true } }, importance: {} })
    expect(plan.shortfalls).toMatchObject([{ meter: 'seconds', needed: expect.closeTo(2, 6) as number, room: 0.5 }])
  })

  describe('that cannot be met', () => {
    const kit = kitOf([0.4, 1, 0.7].map((seconds, i) => ({ layers: [layerOf(sounds.hit(`Long ${i}`, 20 + i, { seconds, stereo: true }))] })))
    const holds = { 0: { length: true, pad: true }, 1: { length: true, pad: true }, 2: { pad: true } }

    it('names the pads by what they need, and the least that would have to be let go', () => {
      const plan = planOnly(kit, sounds, small(1.4), { holds, importance: {} })
      expect(plan.shortfalls[0]!.pads.map(({ padIndex }) => padIndex)).toEqual([1, 0, 2])
      // Too much are some hundredths of a second: of both lengths that are held the shorter is enough.
      expect(plan.shortfalls[0]!.releases).toEqual([{ padIndex: 0, held: 'length' }])
      expect(planOnly(kit, sounds, small(1.4), { holds: { ...holds, 0: { pad: true } }, importance: {} }).shortfalls).toEqual([])
    })

    it('asks for as few releases as there may be, and for none where none is enough', () => {
      const both = planOnly(kit, sounds, small(0.5), { holds, importance: {} }).shortfalls[0]!
      expect(both.releases).toHaveLength(2)
      expect(planOnly(kit, sounds, small(0.01), { holds, importance: {} }).shortfalls[0]!.releases).toEqual([])
    })

    it('is planned as if that limit were not there, within all others', () => {
      const wanted = { ...small(0.01), limits: { ...small(0.01).limits, bytes: 150_000 } }
      const plan = planOnly(kit, sounds, wanted, { holds, importance: {} })
      expect(plan.shortfalls.map(({ meter }) => meter)).toEqual(['seconds'])
      expect(plan.rows.every(row => row.state === 'kept')).toBe(true)
      expect(plan.after.seconds).toBeGreaterThan(1.4)
      expect(plan.after.bytes).toBeLessThanOrEqual(150_000)
    })

    it('by two limits together, each of which some way meets, says which is over', () => {
      // The long one is too long and has bytes enough at the lower rate, the short one is short enough and takes too many bytes.
      const two = kitOf([0.3, 0.25].map((seconds, i) => ({ layers: [layerOf(sounds.hit(`Pair ${i}`, 31 + i, { seconds }))] })))
      const tight = { ...small(0.27), audio: { ...lembos.audio, rates: [48_000, 8_000], highestRate: 48_000 }, limits: { ...small(0.27).limits, bytes: 6_000 } }
      const plan = planOnly(two, sounds, tight, { holds: { 0: { length: true }, 1: { length: true, bandwidth: true } }, importance: {} })
      expect(plan.shortfalls[0]).toMatchObject({ meter: 'seconds', needed: expect.closeTo(0.3, 6) as number, room: 0.27, pads: [{ padIndex: 0 }] })
      expect(plan.rows.some(row => row.state === 'kept')).toBe(true)
    })

    it('by pads that are all held is planned with all of them, whatever places there are', () => {
      const many = kitOf(Array.from({ length: 12 }, (_, i) => ({ layers: [layerOf(sounds.hit(`Pad ${i}`, 40 + i))] })))
      const wanted = { ...lembos, pads: { banks: 1, inBank: 8, columns: 4 } }
      const plan = planOnly(many, sounds, wanted, { holds: Object.fromEntries(many.pads.map((_, i) => [i, { pad: true }])), importance: {} })
      expect(plan.shortfalls).toMatchObject([{ meter: 'pads', needed: 12, room: 8, releases: expect.arrayContaining([{ padIndex: 0, held: 'pad' }]) as unknown }])
      expect(plan.shortfalls[0]!.releases).toHaveLength(4)
      expect(plan.rows.filter(row => row.state === 'kept')).toHaveLength(12)
    })

    it('by a sample that is too long, or by layers that are held, names those', () => {
      const long = planOnly(kit, sounds, { ...small(9), limits: { ...small(9).limits, longestSeconds: 0.5 } }, { holds, importance: {} })
      expect(long.shortfalls).toEqual([{ meter: 'longestSeconds', needed: expect.closeTo(1, 6) as number, room: 0.5, pads: [{ padIndex: 1, needed: expect.closeTo(1, 6) as number }], releases: [{ padIndex: 1, held: 'length' }] }])
      const layered = kitOf([{ layers: [layerOf(sounds.hit('Soft', 1), { highVelocity: 63 }), layerOf(sounds.hit('Hard', 2), { lowVelocity: 64 })] }])
      const many = planOnly(layered, sounds, { ...small(9), layers: 1, turns: 1 }, { holds: { 0: { layers: true } }, importance: {} })
      expect(many.shortfalls).toMatchObject([{ meter: 'layers', needed: 2, room: 1, releases: [{ padIndex: 0, held: 'layers' }] }])
      expect(many.rows.map(row => row.state)).toEqual(['kept', 'kept'])
    })
  })

  it('writes equal samples once where the target shares them', () => {
    const hit = sounds.hit('Same', 3)
    const kit = kitOf([{ layers: [layerOf(hit)] }, { layers: [layerOf(hit)] }, { layers: [layerOf(sounds.hit('Other', 4))] }])
    const { plan, made } = fit(kit, sounds, target('sf2'))
    expect(plan.after.samples).toBe(2)
    expect(made.samples.size).toBe(2)
    expect(plan.rows.map(row => row.sharedWith)).toEqual([null, 'A1', null])
    expect(fit(kit, sounds, target('holkas')).made.samples.size).toBe(3)
  })

  it('of a kit package leaves everything as it is', () => {
    const kit = kitOf([{ filter: { type: 'band-pass', cutoffHz: 900, resonanceDb: 3 }, layers: [layerOf(sounds.hit('A', 5), { startFrame: 100 })] }])
    const plan = planOnly(kit, sounds, target('package'), NO_WISHES)
    expect([plan.warnings, plan.shortfalls, plan.rows.map(row => row.variant!.loss)]).toEqual([[], [], [0]])
  })
})
