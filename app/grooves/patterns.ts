import { patternRoutes, type PatternRow, type PatternView } from '~~/contract/patterns'
import { useDebounceFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import { emptyPattern, type Pattern } from '~~/core/groove/document'
import { api } from '../parts/useApi'
import { onReconnected, onServerEvent } from '../parts/useServerEvents'
import { newest } from '../parts/newest'

const REST_MS = 1_500

interface PatternDetails {
  readonly folder?: string
  readonly tags?: readonly string[]
}

/** The patterns that there are, as a list. */
export const usePatterns = defineStore('patterns', () => {
  const rows = shallowRef<readonly PatternRow[]>([])
  /** True once the list has come. */
  const isLoaded = shallowRef(false)

  onServerEvent((event) => {
    if (event.type === 'patterns' || event.type === 'vault') void load()
    if (event.type === 'pattern') void loadLater()
  })
  onReconnected(() => void load())

  const load = newest(() => api(patternRoutes.list), (found) => {
    rows.value = found
    isLoaded.value = true
  })

  /** What a list shows of a pattern changes with every edit of it. */
  const loadLater = useDebounceFn(() => load().catch(() => undefined), REST_MS)

  function fetchOne(id: string): Promise<PatternView> {
    return api(patternRoutes.read, { params: { id } })
  }

  /** Makes a pattern of one's own, empty or as it is given; a name that another has gets a number. */
  async function create(pattern: Pattern = emptyPattern('New pattern'), details: PatternDetails = {}): Promise<PatternView> {
    const made = await post(pattern, details)
    await load()
    return made
  }

  /** Makes several patterns, one after the other, until all are made or the signal aborts it. */
  async function createAll(several: readonly Pattern[], folder: string, { signal, onMade }: { readonly signal: AbortSignal, readonly onMade: (count: number) => void }): Promise<void> {
    const taken = takenNames()
    try {
      for (const [i, pattern] of several.entries()) {
        if (signal.aborted) return
        const { pattern: made } = await post(pattern, { folder }, taken)
        taken.add(made.name.toLowerCase())
        onMade(i + 1)
      }
    }
    finally {
      await load()
    }
  }

  function post(pattern: Pattern, details: PatternDetails, taken = takenNames()): Promise<PatternView> {
    return api(patternRoutes.add, { body: { pattern: { ...pattern, name: freeName(pattern.name, taken) }, ...details } })
  }

  function takenNames(): Set<string> {
    return new Set(rows.value.filter(row => !row.isShipped).map(row => row.name.toLowerCase()))
  }

  function freeName(name: string, taken: ReadonlySet<string>): string {
    for (let n = 1; ; n++) {
      const free = n === 1 ? name : `${name.slice(0, 110)} ${n}`
      if (!taken.has(free.toLowerCase())) return free
    }
  }

  async function setDetails(id: string, details: { readonly folder?: string, readonly tags?: readonly string[], readonly favourite?: boolean }): Promise<void> {
    rows.value = rows.value.map(row => row.id === id ? { ...row, ...details } : row)
    await api(patternRoutes.setDetails, { params: { id }, body: details })
  }

  async function remove(id: string): Promise<void> {
    await api(patternRoutes.remove, { params: { id } })
    await load()
  }

  return { rows, isLoaded, load, fetchOne, create, createAll, setDetails, remove }
})
