import { beforeEach, describe, expect, it } from 'vitest'
import { madeRow } from '../../tests/helpers/rows'
import { freshStores } from '../../tests/helpers/stores'
import { MOST_COMPARED, useCompare } from './compare'

const rows = (count: number) => Array.from({ length: count }, (_, i) => madeRow(i + 1))

beforeEach(freshStores)

describe('marks to compare', () => {
  it('are set and taken away by the same key', () => {
    const compare = useCompare()
    compare.mark(rows(2))
    expect(compare.isMarked(madeRow(2).hash)).toBe(true)
    compare.mark(rows(3))
    expect(compare.rows.map(row => row.id)).toEqual([1, 2, 3])
    compare.mark([madeRow(2)])
    expect(compare.rows.map(row => row.id)).toEqual([1, 3])
  })

  it('are eight at most; what is too many changes nothing', () => {
    const compare = useCompare()
    compare.mark(rows(5))
    expect(() => compare.mark(rows(MOST_COMPARED + 1))).toThrow('Up to 8 sounds are compared at a time; 5 sounds are marked.')
    expect(compare.rows).toHaveLength(5)
  })

  it('close the comparison when fewer than two are left', () => {
    const compare = useCompare()
    compare.mark(rows(3))
    compare.isOpen = true
    compare.cursor = 2
    compare.remove([madeRow(3).hash])
    expect([compare.isOpen, compare.cursor]).toEqual([true, 1])
    compare.remove([madeRow(1).hash])
    expect(compare.isOpen).toBe(false)
  })

  it('are all there when names are hidden, in whatever order', () => {
    const compare = useCompare()
    compare.mark(rows(8))
    compare.goBlind()
    expect(compare.rows.map(row => row.id).sort()).toEqual([1, 2, 3, 4, 5, 6, 7, 8])
    expect(compare.isBlind).toBe(true)
    compare.clear()
    expect([compare.isBlind, compare.rows.length]).toEqual([false, 0])
  })
})
