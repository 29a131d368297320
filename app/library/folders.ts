import { searchRoutes, type FavouriteFolder } from '~~/contract/searches'
import { soundRoutes } from '~~/contract/library'
import { defineStore } from 'pinia'
import { computed, shallowReactive, shallowRef } from 'vue'
import { useDebounceFn } from '@vueuse/core'
import { inNaturalOrder } from '~~/core/search/naturalKey'
import type { FolderCount } from '~~/core/search/catalogue/folders'
import { api } from '../parts/useApi'
import { onReconnected, onServerEvent } from '../parts/useServerEvents'
import { useLibrary } from './library'
import { newest } from '../parts/newest'
import { useSaved } from './saved'
import { useSettings } from '../parts/settings'

/** A line of the tree: a favourite folder, a saved search, or a folder. */
export type FolderLine =
  | { readonly type: 'favourite', readonly key: string, readonly name: string, readonly sourceId: number, readonly path: string }
  | { readonly type: 'search', readonly key: string, readonly name: string, readonly id: number, readonly count: number | null }
  | { readonly type: 'folder', readonly key: string, readonly name: string, readonly sourceId: number, readonly path: string, readonly depth: number, readonly count: number, readonly hasMore: boolean, readonly isOpen: boolean }

const CALM_MS = 250

/** A folder by its source and path, as a search says it. */
export function placeKey(sourceId: number, path: string): string {
  return path === '' ? String(sourceId) : `${sourceId}/${path}`
}

/** Sources and folders with what the search finds in each; those below an opened one are asked for. */
export const useFolders = defineStore('folders', () => {
  const library = useLibrary()
  const saved = useSaved()
  const settings = useSettings()
  const favourites = shallowRef<readonly FavouriteFolder[]>([])
  const opened = shallowReactive(new Set<string>())
  const ROOT = ''
  const below = shallowReactive(new Map<string, readonly FolderCount[]>())

  const load = newest(() => api(searchRoutes.favouriteFolders).catch(() => favourites.value), found => favourites.value = found)
  onServerEvent((event) => {
    if (event.type === 'searches' || (event.type === 'library' && !event.isArriving)) void load()
  })
  onReconnected(() => void load())

  let request = 0

  /** What was asked before something else was searched for is let go of. */
  async function fetchBelow(key: string): Promise<void> {
    const own = request
    const { q, sort, descending } = library.search
    const search = { q: library.read.problems.length === 0 ? q : '', sort, descending, middleC: settings.middleC }
    const found = await api(soundRoutes.folders, { query: { ...search, under: key === ROOT ? undefined : key } }).catch(() => undefined)
    if (found && own === request) below.set(key, found)
  }

  /** Counts again what is in sight, since something else is searched for or was brought in. */
  const count = useDebounceFn(async () => {
    request++
    await Promise.all([ROOT, ...opened].map(fetchBelow))
  }, CALM_MS)

  async function toggle(key: string): Promise<void> {
    if (opened.delete(key)) return
    await fetchBelow(key)
    opened.add(key)
  }

  const nameOf = (sourceId: number) => library.sources.find(source => source.id === sourceId)?.name

  /** What a folder is called: its last part, or the name of its source. */
  function labelOf(sourceId: number, path: string): string {
    return path === '' ? nameOf(sourceId) ?? 'a source that was removed' : path.slice(path.lastIndexOf('/') + 1)
  }

  /** Sources by their names; folders come so already. */
  function sortedByName(counts: readonly FolderCount[]): readonly FolderCount[] {
    return counts.some(({ path }) => path === '') ? inNaturalOrder([...counts], ({ sourceId }) => nameOf(sourceId) ?? '') : counts
  }

  function linesBelow(key: string, depth: number): FolderLine[] {
    return sortedByName(below.get(key) ?? []).flatMap(({ sourceId, path, count: found, hasMore }): FolderLine[] => {
      if (nameOf(sourceId) === undefined) return []
      const own = placeKey(sourceId, path)
      const isOpen = opened.has(own)
      return [{ type: 'folder', key: own, name: labelOf(sourceId, path), sourceId, path, depth, count: found, hasMore, isOpen }, ...isOpen ? linesBelow(own, depth + 1) : []]
    })
  }

  /** Favourites, then saved searches, then the tree. */
  const lines = computed<readonly FolderLine[]>(() => [
    ...favourites.value.map(({ sourceId, path }): FolderLine => ({ type: 'favourite', key: `favourite ${placeKey(sourceId, path)}`, name: labelOf(sourceId, path), sourceId, path })),
    ...saved.searches.map(({ id, name, count: found }): FolderLine => ({ type: 'search', key: `search ${id}`, name, id, count: found })),
    ...linesBelow(ROOT, 0),
  ])

  const isFavourite = (sourceId: number, path: string) => favourites.value.some(one => one.sourceId === sourceId && one.path === path)

  async function setFavourite(sourceId: number, path: string, favourite: boolean): Promise<void> {
    await api(searchRoutes.setFavouriteFolder, { body: { sourceId, path, favourite } })
    await load()
  }

  return { lines, load, count, toggle, opened, isFavourite, setFavourite }
})
