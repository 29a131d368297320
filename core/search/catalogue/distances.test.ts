import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { DistanceRows, ROW_BYTES } from './distances'

const vector = fc.uint8Array({ minLength: 113, maxLength: 113 })

describe('distances of rows', () => {
  it('are the sums of differences up to a limit, however many rows there are', () => {
    fc.assert(fc.property(fc.array(vector, { minLength: 1, maxLength: 40 }), vector, fc.integer({ min: 1, max: 255 }), (rows, wanted, limit) => {
      const distances = new DistanceRows()
      rows.forEach((row, i) => distances.set(i, row))
      const plain = rows.map(row => row.reduce((sum, value, i) => sum + Math.min(limit, Math.abs(value - wanted[i]!)), 0))
      expect([...distances.to(wanted, rows.length, limit)]).toEqual(plain)
    }))
  })

  it('keep their rows as they grow, and can be set anew', () => {
    const distances = new DistanceRows()
    distances.set(0, Uint8Array.of(1, 2, 3))
    distances.set(50_000, Uint8Array.of(9))
    expect([...distances.get(0, 4)]).toEqual([1, 2, 3, 0])
    distances.set(0, Uint8Array.of(7))
    expect([...distances.get(0, 4)]).toEqual([7, 0, 0, 0])
    const found = distances.to(Uint8Array.of(9), 50_001, 255)
    expect([found[0], found[1], found[50_000]]).toEqual([2, 9, 0])
  })

  it('refuse what is longer than a row', () => {
    expect(() => new DistanceRows().set(0, new Uint8Array(ROW_BYTES + 1))).toThrow('does not fit')
  })
})
