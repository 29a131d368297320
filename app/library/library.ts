import { soundRoutes, type FoundRow, type SearchPage } from '~~/contract/library'
import { sourceRoutes, type SourceView } from '~~/contract/sources'
import { useDebounceFn, useSessionStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, reactive, ref, shallowRef, watch } from 'vue'
import type { Facets } from '~~/core/search/catalogue/facets'
import type { FoundBy, Hidden } from '~~/core/search/catalogue/find'
import type { SortBy } from '~~/core/search/catalogue/order'
import { withCondition } from '~~/core/search/query/edit'
import { parseQuery } from '~~/core/search/query/parse'
import { api } from '../parts/useApi'
import { sayError } from '../parts/useSay'
import { onReconnected, onServerEvent } from '../parts/useServerEvents'
import { newest } from '../parts/newest'
import { PAGE_ROWS, pagedRows } from '../parts/pagedRows'
import { stretchesOf } from '../parts/stretches'
import { useSettings } from '../parts/settings'

const REFRESH_MS = 400
/** Who types lets less than this pass between two keys. */
const CALM_MS = 250
/** Results in a row that are passed over because something else was typed by the time they came. */
const MOST_PASSED = 2

/** Where is looked. */
export interface Place {
  readonly source?: number
  readonly folder?: string
}

const EVERYTHING = { q: '', source: undefined as number | undefined, folder: undefined as string | undefined, sort: 'name' as SortBy, descending: false }
type Search = typeof EVERYTHING
const SEARCHED = ['q', 'source', 'folder', 'sort', 'descending'] as const
const NONE_HIDDEN: Hidden = { aside: 0, elsewhere: 0, byPart: [] }
const NONE_FOUND: Readonly<Record<FoundBy, number>> = { words: 0, kind: 0, near: 0 }

/** The list of sounds: what is asked of it, the part of it that is here, the cursor and the selection. */
export const useLibrary = defineStore('library', () => {
  const settings = useSettings()
  const kept = useSessionStorage('emporion-search', { ...EVERYTHING })
  const search = reactive({ ...EVERYTHING, ...kept.value })
  const total = ref(0)
  const loaded = ref(false)
  const { rows, begin, need, fetchRow, fetchRows } = pagedRows(total, fetchPage, () => request)
  const cursor = ref(0)
  /** Indexes of chosen rows beside the cursor's. */
  const chosen = shallowRef<ReadonlySet<number>>(new Set())
  const facets = shallowRef<Facets>()
  const hidden = shallowRef(NONE_HIDDEN)
  const counts = shallowRef(NONE_FOUND)
  const sources = shallowRef<readonly SourceView[]>([])
  /** Goes up with every new result. */
  const version = ref(0)
  let request = 0

  const read = computed(() => parseQuery(search.q, settings.middleC))
  /** True until what is shown is what was asked for. */
  const isBusy = ref(false)
  /** True when the result shown leaves sounds out. */
  const isFiltered = ref(false)
  /** True when what is like a sound is shown, by nearness. */
  const isByNearness = computed(() => read.value.parts.some(part => part.field === 'like' && !part.isExcluded))
  const atCursor = computed(() => rows.get(cursor.value))
  const chosenCount = computed(() => chosen.value.size > 0 ? chosen.value.size : Math.min(1, total.value))

  /** The last search that could be understood: what is shown is its result. */
  let understood = { ...search, ...read.value.problems.length > 0 ? { q: '' } : {} }
  let isTyped = false
  /** When the key was pressed that is not on the screen yet. */
  let pressedAt: number | undefined
  let passed = 0
  let underWay: Promise<void> | undefined

  watch(() => ({ ...search }), (now) => {
    kept.value = { ...now }
    if (isNothingNew()) return
    isTyped = true
    isBusy.value = true
    void follow()
  }, { flush: 'sync' })
  onServerEvent((event) => {
    if (event.type === 'library') refresh()
  })
  onReconnected(refresh)

  /** True while the cursor stands at the top of a new result only because that is new. */
  let isUnvisited = false

  /** A text that can't be understood is told in the search line, and the list stays by the text before it; place and order count. */
  function wanted(): Search {
    return read.value.problems.length === 0 ? { ...search } : { ...search, q: understood.q }
  }

  /** True where nothing is to be asked for, since what was typed can't be understood and all else is as it was. */
  function isNothingNew(): boolean {
    const next = wanted()
    return read.value.problems.length > 0 && SEARCHED.every(field => next[field] === understood[field])
  }

  /** Fetches what is asked for. One request at a time: what is typed in the meantime is asked for next, and only the last of it. */
  function follow(): Promise<void> {
    underWay ??= (async () => {
      while (isTyped) {
        isTyped = false
        // What is typed at one stroke is one change.
        await Promise.resolve()
        // It may have become something that can't be understood in the meantime.
        if (loaded.value && isNothingNew()) return
        isUnvisited = loaded.value
        understood = wanted()
        chosen.value = new Set()
        cursor.value = 0
        await fetchResult(0)
      }
    })().finally(() => {
      underWay = undefined
      isBusy.value = isTyped
      // Something may have been typed between the last look and now.
      if (isTyped) void follow()
    })
    return underWay
  }

  /** Begins a new result; the cursor goes to its top. */
  function start(): Promise<void> {
    isTyped = true
    return follow()
  }

  /** Waits until what is shown is what was asked for. */
  async function settled(): Promise<void> {
    await Promise.resolve()
    await underWay
  }

  /** Fetches anew what is shown, since something about it has changed; the cursor stays on its sound. */
  async function fetchAgain(): Promise<void> {
    const here = atCursor.value
    const before = cursor.value
    const shown = version.value
    await loadSources().catch(() => undefined)
    const place = here ? await api(soundRoutes.place, { query: { ...asks(), id: here.id } }).catch(() => ({ index: -1 })) : { index: -1 }
    // What somebody asks for comes first: its answer must not be passed over for this one, nor its cursor be taken to a place of what was before it.
    if (underWay || version.value !== shown) return refresh()
    // Whoever moved in the meantime stays where they went.
    if (place.index >= 0 && cursor.value === before) cursor.value = place.index
    await fetchResult(Math.floor(cursor.value / PAGE_ROWS))
  }

  const fetchSoon = useDebounceFn(fetchAgain, REFRESH_MS, { maxWait: 1500 })

  function refresh(): void {
    void fetchSoon()
  }

  function asks() {
    return { ...understood, middleC: settings.middleC }
  }

  async function fetchResult(firstPage: number): Promise<void> {
    const own = ++request
    const query = asks()
    const asksForLess = query.q.trim() !== '' || query.source !== undefined
    try {
      const page = await fetchPage(firstPage)
      if (own !== request) return
      if (isTyped && passed < MOST_PASSED) {
        passed++
        return
      }
      passed = 0
      total.value = page.total
      isFiltered.value = asksForLess
      counts.value = page.counts
      hidden.value = NONE_HIDDEN
      begin(firstPage, page)
      cursor.value = Math.min(cursor.value, Math.max(0, page.total - 1))
      loaded.value = true
      version.value++
      tellPainted()
      void count(own, query)
    }
    catch (thrown) {
      sayError(thrown)
    }
  }

  /** What is counted follows when the rows are on the screen; of several results in a row only the last is worth it. */
  const count = useDebounceFn(async (own: number, query: ReturnType<typeof asks>) => {
    const answer = await api(soundRoutes.facets, { query }).catch(() => undefined)
    if (own !== request || !answer) return
    hidden.value = answer.hidden
    facets.value = answer.facets
  }, CALM_MS)

  /** Remembers when something was typed, so that the time until it is on the screen can be measured. */
  function typedAt(timeStamp: number): void {
    pressedAt ??= timeStamp
  }

  function tellPainted(): void {
    const start = pressedAt
    pressedAt = undefined
    // A frame is painted after the callbacks of its own, and before those of the next task.
    if (start !== undefined) requestAnimationFrame(() => setTimeout(() => performance.measure('emporion:key-to-rows', { start, end: performance.now() })))
  }

  function fetchPage(number: number): Promise<SearchPage> {
    return api(soundRoutes.list, { query: { ...asks(), offset: number * PAGE_ROWS, limit: PAGE_ROWS } })
  }

  /** The chosen rows, or the one at the cursor, in their order; those that are not in the page are fetched. */
  async function fetchChosen(most = Infinity): Promise<FoundRow[]> {
    return fetchRows(chosenIndexes().slice(0, most))
  }

  /** The ids of the chosen sounds, or of the one at the cursor, however many there are. */
  async function fetchChosenIds(): Promise<readonly number[]> {
    if (total.value === 0) return []
    const indexes = chosenIndexes()
    const here = indexes.map(index => rows.get(index)?.id)
    if (here.every(id => id !== undefined)) return here as number[]
    const answer = await api(soundRoutes.ids, { body: { search: asks(), stretches: stretchesOf(indexes) } })
    return answer.ids
  }

  function chosenIndexes(): number[] {
    return chosen.value.size > 0 ? [...chosen.value].sort((a, b) => a - b) : [cursor.value]
  }

  /** Moves the cursor; with `extend` the rows passed over are chosen with it. */
  function moveTo(index: number, extend = false): void {
    const target = Math.max(0, Math.min(total.value - 1, index))
    if (extend) {
      const others = chosen.value.size > 0 ? chosen.value : new Set([cursor.value])
      const [low, high] = [Math.min(cursor.value, target), Math.max(cursor.value, target)]
      chosen.value = new Set([...others, ...Array.from({ length: high - low + 1 }, (_, i) => low + i)])
    }
    else if (chosen.value.size > 0) chosen.value = new Set()
    cursor.value = target
    isUnvisited = false
  }

  /** Where a step leads to: at the top of a new result the first step down to the first of it, which nobody has gone to yet. */
  function after(step: number): number {
    return isUnvisited && step === 1 ? cursor.value : cursor.value + step
  }

  /** Selects what was found by its name; what was found by its kind, or is spelled nearly so, at a second press. Gives how many are selected. */
  function chooseAll(): number {
    const named = counts.value.words
    const hasNamed = named > 0 && named < total.value && chosen.value.size !== named
    const count = hasNamed ? named : total.value
    chosen.value = new Set(Array.from({ length: count }, (_, index) => index))
    return count
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
    Object.assign(search, { ...EVERYTHING, sort: search.sort, descending: search.descending })
  }

  /** Sets a condition of the search text in place of those of its name, or takes them away. */
  function setCondition(field: string, condition: string | undefined): void {
    search.q = withCondition(search.q, read.value, field, condition)
  }

  function lookIn({ source, folder }: Place): void {
    search.source = source
    search.folder = source === undefined || folder === '' ? undefined : folder
  }

  /** Looks at less: the source of the current sound, then its folder. */
  function narrow(): void {
    const [source, ...folders] = (atCursor.value?.folders.find(place => search.source === undefined || place.startsWith(`${search.source}/`) || place === String(search.source)) ?? '').split('/')
    if (!source) return
    if (search.source === undefined) lookIn({ source: Number(source) })
    else if (folders.length > 0) lookIn({ source: search.source, folder: folders.join('/') })
  }

  /** Looks at more: the folder above, then the source, then everything. */
  function widen(): void {
    if (search.folder !== undefined) lookIn({ source: search.source, folder: search.folder.split('/').slice(0, -1).join('/') })
    else lookIn({})
  }

  /** Sorts by a figure; once more turns the order round. */
  function sortBy(by: SortBy): void {
    if (search.sort === by) search.descending = !search.descending
    else Object.assign(search, { sort: by, descending: by === 'added' || by === 'loudness' || by === 'peak' })
  }

  const loadSources = newest(() => api(sourceRoutes.list), found => sources.value = found)

  return {
    search, read, total, counts, hidden, loaded, version, isBusy, rows, cursor, chosen, chosenCount, atCursor, facets, sources, isFiltered, isByNearness,
    start, settled, typedAt, need, fetchRow, fetchChosen, fetchChosenIds, moveTo, after, chooseAll, toggle, clearFilters, setCondition, lookIn, narrow, widen, sortBy, loadSources,
  }
})
