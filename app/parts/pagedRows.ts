import { shallowReactive, type Ref } from 'vue'
import type { FoundRow, SearchPage } from '~~/contract/library'

export const PAGE_ROWS = 50
const MOST_PAGES = 120

/**
 * The rows of one result of a search, of which those in sight and around them are here.
 *
 * @param turn goes up as soon as another result is asked for: what is on its way then is let go
 */
export function pagedRows(total: Ref<number>, fetchPage: (number: number) => Promise<SearchPage>, request: () => number) {
  const rows = shallowReactive(new Map<number, FoundRow>())
  const asked = new Set<number>()
  const onTheirWay = new Map<number, Promise<unknown>>()

  /** Takes the first rows of a new result. */
  function begin(number: number, page: SearchPage): void {
    rows.clear()
    asked.clear()
    keep(number, page)
  }

  function keep(number: number, page: SearchPage): void {
    asked.add(number)
    page.rows.forEach((row, i) => rows.set(number * PAGE_ROWS + i, row))
    if (asked.size <= MOST_PAGES) return
    const far = [...asked].sort((a, b) => Math.abs(b - number) - Math.abs(a - number))[0]!
    asked.delete(far)
    for (let i = 0; i < PAGE_ROWS; i++) rows.delete(far * PAGE_ROWS + i)
  }

  /** Makes sure that the rows of a stretch are here or on their way. */
  async function ensure(from: number, to: number): Promise<void> {
    const own = request()
    const last = Math.min(to, total.value - 1)
    for (let number = Math.floor(Math.max(0, from) / PAGE_ROWS); number <= Math.floor(last / PAGE_ROWS); number++) {
      if (asked.has(number)) continue
      asked.add(number)
      const coming = fetchPage(number).catch(() => undefined)
      onTheirWay.set(number, coming)
      const page = await coming
      onTheirWay.delete(number)
      if (own !== request()) return
      if (page) keep(number, page)
      else asked.delete(number)
    }
  }

  /** Makes sure of the rows in sight, then of those around them: where somebody goes next, they are there already. */
  async function need(from: number, to: number): Promise<void> {
    const own = request()
    for (const [first, last] of [[from, to], [to + 1, to + PAGE_ROWS], [from - PAGE_ROWS, from - 1]] as const) {
      if (own === request()) await ensure(first, last)
    }
  }

  /** A row, also one that is still on its way. */
  async function fetchRow(index: number): Promise<FoundRow | undefined> {
    await ensure(index, index)
    await onTheirWay.get(Math.floor(index / PAGE_ROWS))
    return rows.get(index)
  }

  /** Rows in the order of their indexes; those that are not here are fetched. */
  async function fetchRows(indexes: readonly number[]): Promise<FoundRow[]> {
    const fetched = new Map<number, readonly FoundRow[]>()
    const found: FoundRow[] = []
    for (const index of indexes) {
      const here = rows.get(index)
      const number = Math.floor(index / PAGE_ROWS)
      if (!here && !fetched.has(number)) fetched.set(number, (await fetchPage(number)).rows)
      const row = here ?? fetched.get(number)?.[index % PAGE_ROWS]
      if (row) found.push(row)
    }
    return found
  }

  return { rows, begin, need, fetchRow, fetchRows }
}
