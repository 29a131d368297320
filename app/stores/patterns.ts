import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import type { Pattern } from '~~/core/groove/document'
import type { PatternRow, PatternView } from '~~/server/patterns/store'
import { api } from '../composables/useApi'
import { onReconnected, onServerEvent } from '../composables/useServerEvents'

/** The patterns that there are, as a list. */
export const usePatterns = defineStore('patterns', () => {
  const rows = shallowRef<readonly PatternRow[]>([])
  /** True once the list has come. */
  const isLoaded = shallowRef(false)

  onServerEvent((event) => {
    if (event.type === 'patterns' || event.type === 'vault') void load()
  })
  onReconnected(() => void load())

  async function load(): Promise<void> {
    rows.value = await api<PatternRow[]>('/api/patterns')
    isLoaded.value = true
  }

  function fetchOne(id: string): Promise<PatternView> {
    return api<PatternView>(path(id))
  }

  /** Makes a pattern of one's own, empty or as it is given. */
  async function create(pattern?: Pattern, marks: { readonly folder?: string, readonly tags?: readonly string[] } = {}): Promise<PatternView> {
    const made = await api<PatternView>('/api/patterns', { method: 'POST', body: { pattern, ...marks } })
    await load()
    return made
  }

  async function mark(id: string, marks: { readonly folder?: string, readonly tags?: readonly string[], readonly favourite?: boolean }): Promise<void> {
    rows.value = rows.value.map(row => row.id === id ? { ...row, ...marks } : row)
    await api(path(id), { method: 'PATCH', body: marks })
  }

  async function remove(id: string): Promise<void> {
    await api(path(id), { method: 'DELETE' })
    await load()
  }

  return { rows, isLoaded, load, fetchOne, create, mark, remove }
})

function path(id: string): string {
  return `/api/patterns/${encodeURIComponent(id)}`
}
