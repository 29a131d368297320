import { shallowRef } from 'vue'
import type { Listed, Stretch } from '~~/contract/sources'
import { newest } from './newest'

/** Lines that are asked for at once. */
export const LINES_AT_ONCE = 200

/** What `useLongList` gives. */
export interface LongListOf<T, Page extends Listed<T> = Listed<T>> {
  /** The lines that are here. */
  readonly shown: readonly T[]
  readonly total: number
  /** What was answered last, with what else it says of the list. */
  readonly last: Page | undefined
  /** How many lines come with `more`. */
  readonly next: number
  /** Fetches as many lines anew as are here. */
  readonly load: () => Promise<void>
  /** Adds the next lines. */
  readonly more: () => Promise<void>
}

/**
 * A list of any length of which the first lines are here, and more when they are asked for.
 *
 * @param ask gives the lines of a stretch, with how many there are in all
 */
export function useLongList<T, Page extends Listed<T> = Listed<T>>(ask: (stretch: Stretch) => Promise<Page>, atOnce = LINES_AT_ONCE): LongListOf<T, Page> {
  const shown = shallowRef<readonly T[]>([])
  const last = shallowRef<Page>()
  const fetch = newest(
    async (kept: readonly T[], wanted: number) => {
      const lines = [...kept]
      let page: Page
      do {
        page = await ask({ limit: atOnce, offset: lines.length })
        lines.push(...page.shown)
      } while (page.shown.length > 0 && lines.length < Math.min(wanted, page.total))
      return { page, lines }
    },
    ({ page, lines }) => {
      last.value = page
      shown.value = lines
    },
  )
  const total = () => last.value?.total ?? 0
  return {
    get shown() { return shown.value },
    get total() { return total() },
    get last() { return last.value },
    get next() { return Math.min(atOnce, Math.max(0, total() - shown.value.length)) },
    load: () => fetch([], Math.max(atOnce, shown.value.length)),
    more: () => fetch(shown.value, shown.value.length + atOnce),
  }
}
