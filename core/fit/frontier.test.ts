import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cheapest, type Choice } from './frontier'

/** The lowest cost of all combinations within the limits, by trying every one; undefined when none is. */
function byTryingAll(parts: readonly (readonly Choice<number>[])[], limits: readonly number[]): number | undefined {
  const go = (part: number, uses: readonly number[], cost: number): number => {
    if (uses.some((use, i) => use > limits[i]!)) return Infinity
    if (part === parts.length) return cost
    return Math.min(...parts[part]!.map(choice => go(part + 1, uses.map((use, i) => use + choice.uses[i]!), cost + choice.cost)))
  }
  const best = go(0, limits.map(() => 0), 0)
  return best === Infinity ? undefined : best
}

const partsOf = (dimensions: number) => fc.array(fc.array(fc.record({
  uses: fc.array(fc.integer({ min: 0, max: 20 }), { minLength: dimensions, maxLength: dimensions }),
  cost: fc.integer({ min: 0, max: 50 }),
  what: fc.nat(),
}), { minLength: 1, maxLength: 5 }), { minLength: 1, maxLength: 6 })

describe('choosing within limits', () => {
  it.each([1, 2, 3])('with %i limits costs what trying all combinations finds', (dimensions) => {
    fc.assert(fc.property(partsOf(dimensions), fc.array(fc.integer({ min: 1, max: 60 }), { minLength: dimensions, maxLength: dimensions }), (parts, limits) => {
      expect(cheapest(parts, limits)?.cost).toBe(byTryingAll(parts, limits))
    }), { numRuns: 200 })
  })

  it('gives one choice for each part, in their order, within the limits', () => {
    fc.assert(fc.property(partsOf(2), fc.tuple(fc.integer({ min: 1, max: 60 }), fc.integer({ min: 1, max: 60 })), (all, limits) => {
      const parts = all.map((choices, p) => choices.map((choice, c) => ({ ...choice, what: p * 100 + c })))
      const found = cheapest(parts, limits)
      if (!found) return
      expect(found.chosen).toHaveLength(parts.length)
      const taken = found.chosen.map((what, p) => parts[p]!.find(choice => choice.what === what)!)
      expect(taken.every(Boolean)).toBe(true)
      limits.forEach((limit, i) => expect(taken.reduce((sum, choice) => sum + choice.uses[i]!, 0)).toBeLessThanOrEqual(limit))
      expect(taken.reduce((sum, choice) => sum + choice.cost, 0)).toBe(found.cost)
    }))
  })

  it('stays within the limit, and near the best, where there are too many ways to keep them all', () => {
    const parts = Array.from({ length: 200 }, (_, p) => Array.from({ length: 12 }, (_, c) => ({ uses: [1000 / (c + 1) + (p * 37 % 91) * (c < 11 ? 1 : 0)], cost: c * c + p % 7, what: c })))
    const limit = 40_000
    const found = cheapest(parts, [limit])!
    expect(found.chosen.reduce((sum, c, p) => sum + parts[p]![c]!.uses[0]!, 0)).toBeLessThanOrEqual(limit)
    // What could be reached at best, by relaxation: no multiplier gives a higher bound than the best plan costs.
    const bound = Math.max(...Array.from({ length: 400 }, (_, i) => i * 0.002).map(price => parts.reduce((sum, choices) => sum + Math.min(...choices.map(({ uses, cost }) => cost + price * uses[0]!)), 0) - price * limit))
    expect(found.cost).toBeLessThanOrEqual(bound * 1.01)
  })
})
