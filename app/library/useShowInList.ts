import { useLibrary } from './library'

/** Shows in the list what a search finds, in a source or anywhere, in place of all that was searched before. */
export function useShowInList(): (q: string, source?: number) => void {
  const library = useLibrary()
  return (q, source) => {
    library.clearFilters()
    if (source !== undefined) library.lookIn({ source, folder: '' })
    library.search.q = q
  }
}
