import { useDebounceFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, reactive, ref, shallowReactive, shallowRef, watch } from 'vue'
import type { Facets, SoundRow } from '~~/server/library/search'
import type { SourceView } from '~~/server/library/sources'
import { api } from '../composables/useApi'
import { sayError } from '../composables/useSay'
import { onReconnected, onServerEvent } from '../composables/useServerEvents'

const PAGE_ROWS = 100
const MOST_PAGES = 60
const TYPING_MS = 60
const REFRESH_MS = 400

interface Page {
  readonly total: number
  readonly rows: readonly SoundRow[]
}

/** The list of sounds: what is asked of it, the part of it that is here, the cursor and the selection. */
export const useLibrary = defineStore('library', () => {
  const search = reactive({ q: '', kind: undefined as string | undefined, source: undefined as number | undefined, favourite: undefined as 'yes' | undefined })
  const total = ref(0)
  const loaded = ref(false)
  const rows = shallowReactive(new Map<number, SoundRow>())
  const cursor = ref(0)
  /** Indexes of chosen rows beside the cursor's. */
  const chosen = shallowRef<ReadonlySet<number>>(new Set())
  const facets = shallowRef<Facets>({ kinds: [], sources: [] })
  const sources = shallowRef<readonly SourceView[]>([])
  const asked = new Set<number>()
  let turn = 0

  /** True when the result shown leaves sounds out. */
  const isFiltered = ref(false)
  const atCursor = computed(() => rows.get(cursor.value))
  const chosenCount = computed(() => chosen.value.size > 0 ? chosen.value.size : Math.min(1, total.value))

  let isTyped = false
  let underWay: Promise<void> = Promise.resolve()

  const startSoon = useDebounceFn(() => void (isTyped && start()), TYPING_MS)
  watch(() => ({ ...search }), () => {
    isTyped = true
    void startSoon()
  }, { flush: 'sync' })
  onServerEvent((event) => {
    if (event.type === 'library') void refresh()
  })
  onReconnected(() => void refresh())

  /** Begins a new result; the cursor goes to its top. */
  async function start(): Promise<void> {
    isTyped = false
    cursor.value = 0
    chosen.value = new Set()
    underWay = fetchResult(0)
    await underWay
  }

  /** Waits until what is shown is what was asked for, without the pause that typing is given. */
  async function settled(): Promise<void> {
    if (isTyped) await start()
    else await underWay
  }

  const refresh = useDebounceFn(async () => {
    const here = atCursor.value
    const before = cursor.value
    await loadSources()
    const place = here ? await api<{ index: number }>('/api/sounds/place', { query: { ...search, id: here.id } }).catch(() => ({ index: -1 })) : { index: -1 }
    // Whoever moved in the meantime stays where they went.
    if (place.index >= 0 && cursor.value === before) cursor.value = place.index
    await fetchResult(Math.floor(cursor.value / PAGE_ROWS))
  }, REFRESH_MS, { maxWait: 1500 })

  async function fetchResult(firstPage: number): Promise<void> {
    const own = ++turn
    const asks = search.q.trim() !== '' || search.kind !== undefined || search.source !== undefined || search.favourite !== undefined
    try {
      const [page, found] = await Promise.all([fetchPage(firstPage), api<Facets>('/api/sounds/facets', { query: { ...search } })])
      if (own !== turn) return
      rows.clear()
      asked.clear()
      total.value = page.total
      isFiltered.value = asks
      facets.value = found
      keep(firstPage, page)
      cursor.value = Math.min(cursor.value, Math.max(0, page.total - 1))
      loaded.value = true
    }
    catch (thrown) {
      sayError(thrown)
    }
  }

  /** Makes sure that the rows of a stretch are here or on their way. */
  async function ensure(from: number, to: number): Promise<void> {
    const own = turn
    const last = Math.min(to, total.value - 1)
    for (let number = Math.floor(Math.max(0, from) / PAGE_ROWS); number <= Math.floor(last / PAGE_ROWS); number++) {
      if (asked.has(number)) continue
      asked.add(number)
      const page = await fetchPage(number).catch(() => undefined)
      if (own !== turn) return
      if (page) keep(number, page)
      else asked.delete(number)
    }
  }

  function fetchPage(number: number): Promise<Page> {
    return api<Page>('/api/sounds', { query: { ...search, offset: number * PAGE_ROWS, limit: PAGE_ROWS } })
  }

  /** The chosen rows, or the one at the cursor, in their order; those that are not in the page are fetched. */
  async function fetchChosen(most = Infinity): Promise<SoundRow[]> {
    const indexes = chosen.value.size > 0 ? [...chosen.value].sort((a, b) => a - b).slice(0, most) : [cursor.value]
    const fetched = new Map<number, readonly SoundRow[]>()
    const found: SoundRow[] = []
    for (const index of indexes) {
      const here = rows.get(index)
      const number = Math.floor(index / PAGE_ROWS)
      if (!here && !fetched.has(number)) fetched.set(number, (await fetchPage(number)).rows)
      const row = here ?? fetched.get(number)?.[index % PAGE_ROWS]
      if (row) found.push(row)
    }
    return found
  }

  function keep(number: number, page: Page): void {
    asked.add(number)
    page.rows.forEach((row, i) => rows.set(number * PAGE_ROWS + i, row))
    if (asked.size <= MOST_PAGES) return
    const far = [...asked].sort((a, b) => Math.abs(b - number) - Math.abs(a - number))[0]!
    asked.delete(far)
    for (let i = 0; i < PAGE_ROWS; i++) rows.delete(far * PAGE_ROWS + i)
  }

  /** Moves the cursor; with `extend` the rows passed over are chosen with it. */
  function moveTo(index: number, extend = false): void {
    const target = Math.max(0, Math.min(total.value - 1, index))
    if (extend) {
      const others = chosen.value.size > 0 ? chosen.value : new Set([cursor.value])
      const [low, high] = [Math.min(cursor.value, target), Math.max(cursor.value, target)]
      chosen.value = new Set([...others, ...Array.from({ length: high - low + 1 }, (_, i) => low + i)])
    }
    else chosen.value = new Set()
    cursor.value = target
  }

  /** Adds one row to the chosen ones, or takes it away. */
  function toggle(index: number): void {
    const next = new Set(chosen.value.size > 0 ? chosen.value : [cursor.value])
    if (next.has(index) && next.size > 1) next.delete(index)
    else next.add(index)
    chosen.value = next
    cursor.value = index
  }

  function clearFilters(): void {
    Object.assign(search, { q: '', kind: undefined, source: undefined, favourite: undefined })
  }

  async function loadSources(): Promise<void> {
    sources.value = await api<SourceView[]>('/api/sources')
  }

  return { search, total, loaded, rows, cursor, chosen, chosenCount, atCursor, facets, sources, isFiltered, start, settled, ensure, fetchChosen, moveTo, toggle, clearFilters, loadSources }
})
