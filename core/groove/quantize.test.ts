import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { emptyPattern, type Hit, type Pattern } from './document'
import { addHits, addPart, hitsWithin } from './edits'
import { asPlayed, FULLY, GRID_FEELS, GRID_VALUES, gridTicks, nearestLine, quantize, quantizedTick, type Grid } from './quantize'
import { swung, unswung } from './swing'

const FOUR = { beats: 4, unit: 4 }
const SIXTEENTHS: Grid = { value: 16, feel: 'straight' }

const grids = fc.record({ value: fc.constantFrom(...GRID_VALUES), feel: fc.constantFrom(...GRID_FEELS) })

function played(...ticks: number[]): { pattern: Pattern, chosen: ReadonlySet<Hit> } {
  const pattern = addHits(addPart(emptyPattern('p'), { name: '', role: null, note: 36 }), 'part-1', ticks.map(tick => ({ tick, velocity: 100, length: 100 }))).pattern
  return { pattern, chosen: hitsWithin(pattern, 0, Infinity) }
}

// Common practice: worked by hand on 960 ticks a quarter.
describe('steps of a grid', () => {
  it('are note values, threes in the time of two, and half as long again', () => {
    expect(gridTicks({ value: 4, feel: 'straight' })).toBe(960)
    expect(gridTicks({ value: 8, feel: 'triplet' })).toBe(320)
    expect(gridTicks({ value: 8, feel: 'dotted' })).toBe(720)
    expect(gridTicks({ value: 64, feel: 'straight' })).toBe(60)
    expect(gridTicks({ value: 64, feel: 'triplet' })).toBe(40)
  })
})

describe('quantizing', () => {
  it('draws a hit to the nearest line, as far as its strength says', () => {
    const options = { grid: SIXTEENTHS, ...FULLY }
    expect(quantizedTick(250, options, FOUR)).toBe(240)
    expect(quantizedTick(361, options, FOUR)).toBe(480)
    expect(quantizedTick(300, { ...options, strengthPercent: 50 }, FOUR)).toBe(270)
    expect(quantizedTick(300, { ...options, strengthPercent: 0 }, FOUR)).toBe(300)
  })

  it('leaves what lies outside its window', () => {
    const options = { grid: SIXTEENTHS, ...FULLY, windowPercent: 50 }
    // Half of half a sixteenth is 60 ticks.
    expect(quantizedTick(300, options, FOUR)).toBe(240)
    expect(quantizedTick(301, options, FOUR)).toBe(301)
  })

  it('puts every second line where the swing says', () => {
    const options = { grid: SIXTEENTHS, ...FULLY, swingPercent: 62.5 }
    // 62.5 % of two sixteenths (480 ticks) is tick 300.
    expect(quantizedTick(260, options, FOUR)).toBe(300)
    expect(quantizedTick(490, options, FOUR)).toBe(480)
    expect(quantizedTick(760, options, FOUR)).toBe(780)
  })

  it('begins its lines anew with each bar, so that dotted ones do not wander', () => {
    const dotted: Grid = { value: 4, feel: 'dotted' }
    expect([0, 1440, 2880, 3840, 5280].map(tick => nearestLine(tick, dotted, FOUR))).toEqual([0, 1440, 2880, 3840, 5280])
    // A bar of seven eighths (3,360 ticks) begins a new line.
    expect(nearestLine(3350, { value: 4, feel: 'straight' }, { beats: 7, unit: 8 })).toBe(3360)
  })

  it('can be taken back, and done again from where a hit was played', () => {
    const { pattern, chosen } = played(70, 235, 500)
    const once = quantize(pattern, chosen, { grid: SIXTEENTHS, ...FULLY })
    expect(once.pattern.parts[0]!.hits.map(hit => [hit.tick, hit.playedTick])).toEqual([[0, 70], [240, 235], [480, 500]])
    const half = quantize(once.pattern, once.chosen, { grid: SIXTEENTHS, ...FULLY, strengthPercent: 50 })
    expect(half.pattern.parts[0]!.hits.map(hit => hit.tick)).toEqual([35, 238, 490])
    expect(asPlayed(half.pattern, half.chosen).pattern).toEqual(pattern)
  })

  it('makes one of hits that come to lie on one tick: the loudest, whether it was chosen or not', () => {
    const hits = [[0, 60], [20, 90], [235, 50], [240, 80], [480, 70]].map(([tick, velocity]): Hit => ({ tick: tick!, velocity: velocity!, length: 60 }))
    const pattern = { ...played(0).pattern, parts: [{ ...played(0).pattern.parts[0]!, hits }] }
    const { pattern: drawn, chosen } = quantize(pattern, new Set(hits.slice(0, 3)), { grid: SIXTEENTHS, ...FULLY })
    expect(drawn.parts[0]!.hits.map(hit => [hit.tick, hit.velocity])).toEqual([[0, 90], [240, 80], [480, 70]])
    expect([...chosen].map(hit => hit.velocity)).toEqual([90])
    // What was there twice before, and is not chosen, stays.
    const twice = { ...pattern, parts: [{ ...pattern.parts[0]!, hits: [hits[0]!, hits[1]!, { ...hits[3]! }, { ...hits[3]! }] }] }
    expect(quantize(twice, new Set(hits.slice(0, 1)), { grid: SIXTEENTHS, ...FULLY }).pattern.parts[0]!.hits).toHaveLength(4)
  })

  it('fully puts every hit on a line, and is the same when done twice', () => {
    fc.assert(fc.property(grids, fc.nat(30_000), (grid, tick) => {
      const options = { grid, ...FULLY }
      const once = quantizedTick(tick, options, FOUR)
      expect(quantizedTick(once, options, FOUR)).toBe(once)
      expect(Math.abs(once - tick)).toBeLessThanOrEqual(gridTicks(grid) / 2 + 0.5)
    }))
  })
})

describe('the swing of a pattern', () => {
  it('lays the second of two steps at its percent of the pair, and the rest evenly between', () => {
    // Common practice: 66.67 % on eighths is the first two thirds of a triplet: tick 640 of 960.
    expect(swung(480, { percent: 200 / 3, step: 8 })).toBeCloseTo(640)
    expect(swung(240, { percent: 200 / 3, step: 8 })).toBeCloseTo(320)
    expect(swung(720, { percent: 75, step: 8 })).toBeCloseTo(840)
    expect(swung(960, { percent: 75, step: 8 })).toBe(960)
    expect(swung(1200, { percent: 58, step: 16 })).toBeCloseTo(960 + 278.4)
    expect(swung(333, { percent: 50, step: 16 })).toBe(333)
  })

  it('keeps the order of hits and can be taken off again', () => {
    fc.assert(fc.property(fc.nat(100_000), fc.double({ min: 50, max: 75, noNaN: true }), fc.constantFrom(8 as const, 16 as const), (tick, percent, step) => {
      const swing = { percent, step }
      expect(unswung(swung(tick, swing), swing)).toBeCloseTo(tick, 6)
      expect(swung(tick + 1, swing)).toBeGreaterThan(swung(tick, swing))
    }))
  })
})
