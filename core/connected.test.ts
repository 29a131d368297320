import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { connected } from './connected'

describe('what hangs together', () => {
  it('goes along chains, and by the smallest', () => {
    expect(Object.fromEntries(connected([[7, 5], [5, 9], [2, 3]]))).toEqual({ 5: 5, 7: 5, 9: 5, 2: 2, 3: 2 })
    expect(connected([]).size).toBe(0)
  })

  it('is what spreading along the pairs, one step after another, comes to', () => {
    const number = fc.integer({ min: 0, max: 25 })
    fc.assert(fc.property(fc.array(fc.tuple(number, number), { maxLength: 30 }), (pairs) => {
      const labels = new Map(pairs.flat().map(item => [item, item]))
      for (let turn = 0; turn < labels.size; turn++) {
        for (const [a, b] of pairs) {
          const least = Math.min(labels.get(a)!, labels.get(b)!)
          labels.set(a, least).set(b, least)
        }
      }
      expect(connected(pairs)).toEqual(labels)
    }))
  })
})
