import { searchRoutes, type SavedSearch, type SavedSearchView } from '~~/contract/searches'
import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import type { SortBy } from '~~/core/search/catalogue/order'
import { api } from '../parts/useApi'
import { onReconnected, onServerEvent } from '../parts/useServerEvents'
import { useLibrary } from './library'
import { newest } from '../parts/newest'
import { useSettings } from '../parts/settings'

/** Searches that are kept under a name, with what they find now. */
export const useSaved = defineStore('saved', () => {
  const library = useLibrary()
  const settings = useSettings()
  const searches = shallowRef<readonly SavedSearchView[]>([])

  onServerEvent((event) => {
    if (event.type === 'searches' || event.type === 'library') void load()
  })
  onReconnected(() => void load())

  const load = newest(() => api(searchRoutes.list, { query: { middleC: settings.middleC } }).catch(() => searches.value), found => searches.value = found)

  /** Searches as a kept search says. */
  function open(search: SavedSearch): void {
    Object.assign(library.search, { q: search.q, source: search.source, folder: search.folder, sort: search.sort as SortBy, descending: search.descending })
  }

  /** Keeps what is searched now. */
  async function save(name: string): Promise<void> {
    await api(searchRoutes.save, { body: { name, search: library.search } })
    await load()
  }

  async function remove(id: number): Promise<void> {
    await api(searchRoutes.remove, { params: { id } })
    await load()
  }

  return { searches, load, open, save, remove }
})
