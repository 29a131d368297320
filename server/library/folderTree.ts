import type { FolderCount, Under } from '../../core/search/catalogue/folders'
import { inNaturalOrder } from '../../core/search/naturalKey'
import { EmporionError } from '../../core/errors'
import { idSchema } from '../../contract/ids'
import type { FinderClient } from './finder/client'
import type { Search } from '../../contract/searches'

/** The place that `3/Kicks/Hard` names: the number of a source, and a folder below it. @throws EmporionError `invalid` */
export function placeOf(text: string): Under {
  const slash = text.indexOf('/')
  const source = idSchema.safeParse(slash < 0 ? text : text.slice(0, slash))
  if (!source.success) throw new EmporionError('invalid', `"${text}" names no folder of a source.`)
  return { sourceId: source.data, path: slash < 0 ? '' : text.slice(slash + 1) }
}

/** The folders directly below a place with how many sounds of a search they hold, as people count; its scope is left aside. */
export async function listFolders(finder: FinderClient, search: Search, under: string | undefined): Promise<FolderCount[]> {
  const found = await finder.ask({ type: 'folders', search: { ...search, source: undefined, folder: undefined }, under: under === undefined ? undefined : placeOf(under) })
  return inNaturalOrder([...found], folder => folder.path)
}
