import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { rowsInSight, scrollToShow } from './useRowWindow'

const ROW = 28

describe('rows in sight', () => {
  it('are those that are seen, and some beyond', () => {
    expect(rowsInSight(0, 280, ROW, 1000)).toEqual({ first: 0, last: 12 })
    expect(rowsInSight(28 * 100, 280, ROW, 1000)).toEqual({ first: 98, last: 112 })
  })

  it('are none where there are none', () => {
    const { first, last } = rowsInSight(0, 280, ROW, 0)
    expect(last).toBeLessThan(first)
  })

  it('hold every row that is seen, and none that is not there', () => {
    fc.assert(fc.property(fc.integer({ min: 1, max: 500_000 }), fc.double({ min: 0, max: 1, noNaN: true }), fc.integer({ min: 1, max: 3000 }), (total, along, height) => {
      const top = along * Math.max(0, total * ROW - height)
      const { first, last } = rowsInSight(top, height, ROW, total)
      expect(first).toBeGreaterThanOrEqual(0)
      expect(last).toBeLessThan(total)
      expect(first * ROW).toBeLessThanOrEqual(top)
      expect(last === total - 1 || (last + 1) * ROW >= top + height).toBe(true)
    }))
  })

  it('stay where the list has become shorter than it is scrolled', () => {
    const { first, last } = rowsInSight(28 * 5000, 280, ROW, 20)
    expect(first).toBeLessThanOrEqual(last)
    expect(last).toBe(19)
  })
})

describe('showing a row', () => {
  it('leaves the list where it is when the row is seen', () => {
    expect(scrollToShow(5, 100, 280, ROW)).toBe(100)
  })

  it('scrolls as little as will do to a near row, and puts a far one in the middle', () => {
    expect(scrollToShow(10, 0, 280, ROW)).toBe(28)
    expect(scrollToShow(3, 112, 280, ROW)).toBe(84)
    expect(scrollToShow(1000, 0, 280, ROW)).toBe(28_000 - 126)
  })

  it('always shows it', () => {
    fc.assert(fc.property(fc.nat(500_000), fc.nat(10_000_000), fc.integer({ min: ROW, max: 2000 }), (row, top, height) => {
      const next = scrollToShow(row, top, height, ROW)
      expect(row * ROW).toBeGreaterThanOrEqual(next)
      expect((row + 1) * ROW).toBeLessThanOrEqual(next + height)
    }))
  })
})
