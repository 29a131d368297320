import { describe, expect, it } from 'vitest'
import { ref } from 'vue'
import type { SearchPage } from '~~/contract/library'
import { madeRow } from '../../tests/helpers/rows'
import { PAGE_ROWS, pagedRows } from './pagedRows'

const TOTAL = 20_000

const pageOf = (number: number, result = 'a'): SearchPage => ({
  total: TOTAL,
  counts: { words: TOTAL, kind: 0, near: 0 },
  rows: Array.from({ length: PAGE_ROWS }, (_, i) => madeRow(number * PAGE_ROWS + i, { name: `${result} ${number * PAGE_ROWS + i}` })),
})

/** Rows of a result, the numbers of the pages that were asked for, and a page that fails or waits for as long as told. */
function made() {
  const asked: number[] = []
  const held = new Map<number, Promise<SearchPage>>()
  let request = 0
  const paged = pagedRows(ref(TOTAL), (number) => {
    asked.push(number)
    return held.get(number) ?? Promise.resolve(pageOf(number))
  }, () => request)
  paged.begin(0, pageOf(0))
  const askAnew = () => void request++
  return { ...paged, asked, held, askAnew }
}

describe('rows of a result', () => {
  it('are fetched once, those in sight before those around them, and none past the ends', async () => {
    const { rows, need, asked } = made()
    await need(3 * PAGE_ROWS, 3 * PAGE_ROWS + 20)
    expect(asked).toEqual([3, 4, 2])
    await need(0, 20)
    expect(asked).toEqual([3, 4, 2, 1])
    await need(TOTAL - 10, TOTAL + 30)
    expect(asked.at(-2)).toBe(TOTAL / PAGE_ROWS - 1)
    expect(rows.get(TOTAL - 1)?.name).toBe(`a ${TOTAL - 1}`)
  })

  it('that are far from those looked at last are let go, and fetched anew when they are wanted', async () => {
    const { rows, need, fetchRow, asked } = made()
    for (let number = 1; number < 200; number++) await need(number * PAGE_ROWS, number * PAGE_ROWS)
    expect(rows.size).toBeLessThanOrEqual(120 * PAGE_ROWS)
    expect(rows.get(0)).toBeUndefined()
    expect((await fetchRow(7))?.name).toBe('a 7')
    expect(asked.at(-1)).toBe(0)
  })

  it('that are on their way when another result is asked for are let go, and no more of them are fetched', async () => {
    const { rows, need, begin, askAnew, held, asked } = made()
    let come: (page: SearchPage) => void = () => undefined
    held.set(1, new Promise(resolve => come = resolve))
    const needed = need(60, 4 * PAGE_ROWS)
    askAnew()
    come(pageOf(1))
    await Promise.resolve()
    expect(rows.get(60)).toBeUndefined()
    begin(0, pageOf(0, 'b'))
    await needed
    expect(asked).toEqual([1])
    for (const number of [1, 2]) held.set(number, Promise.resolve(pageOf(number, 'b')))
    await need(60, 70)
    expect([rows.get(0)?.name, rows.get(60)?.name]).toEqual(['b 0', 'b 60'])
  })

  it('that could not be fetched are asked for again the next time', async () => {
    const { rows, need, held } = made()
    held.set(5, Promise.reject(new Error('away')))
    await need(260, 270)
    expect(rows.get(260)).toBeUndefined()
    held.delete(5)
    await need(260, 270)
    expect(rows.get(260)?.name).toBe('a 260')
  })

  it('are given in the order asked for, from here and from the server', async () => {
    const { fetchRows, asked } = made()
    expect((await fetchRows([3, 505, 1, 501])).map(row => row.id)).toEqual([3, 505, 1, 501])
    expect(asked).toEqual([10])
  })
})
