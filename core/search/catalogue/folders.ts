import type { Catalogue } from './catalogue'

/** A folder, or a source as the uppermost one, with how many of the sounds looked at lie in it and below. */
export interface FolderCount {
  readonly sourceId: number
  /** Below the source, with `/` between its parts; empty for the source itself. */
  readonly path: string
  readonly count: number
  /** True when there are folders below it with such sounds. */
  readonly hasMore: boolean
}

/** Where the folders that are counted lie: the sources without it. */
export interface Under {
  readonly sourceId: number
  readonly path: string
}

/**
 * Counts the sounds in each folder directly below a place. A sound with copies in several folders counts once in each place that
 * holds any of them.
 *
 * @param slots places of the sounds in the catalogue
 * @returns the sources or folders that hold any, in no order
 */
export function countFolders(catalogue: Catalogue, slots: Int32Array, under: Under | undefined): FolderCount[] {
  const { folders, furtherFolders, columns } = catalogue
  const children = folders.map(folder => childBelow(folder, under))
  const counts = new Map<string, { sourceId: number, path: string, count: number, hasMore: boolean }>()
  const add = (child: Child, count: number) => {
    const key = `${child.sourceId}/${child.path}`
    const known = counts.get(key) ?? { sourceId: child.sourceId, path: child.path, count: 0, hasMore: false }
    counts.set(key, { ...known, count: known.count + count })
  }
  const inFolder = new Int32Array(folders.length)
  const seen = new Uint8Array(folders.length)
  for (const slot of slots) {
    const further = furtherFolders.get(slot)
    if (!further) {
      if (columns.folders[slot]! >= 0) inFolder[columns.folders[slot]!]!++
      continue
    }
    const places = new Map(further.flatMap((number) => {
      seen[number] = 1
      const child = children[number]
      return child ? [[`${child.sourceId}/${child.path}`, child] as const] : []
    }))
    for (const child of places.values()) add(child, 1)
  }
  inFolder.forEach((count, number) => {
    const child = children[number]
    if (count > 0 && child) add(child, count)
  })
  children.forEach((child, number) => {
    const known = child?.isDeeper && (inFolder[number]! > 0 || seen[number] === 1) ? counts.get(`${child.sourceId}/${child.path}`) : undefined
    if (known) known.hasMore = true
  })
  return [...counts.values()]
}

interface Child {
  readonly sourceId: number
  readonly path: string
  /** The folder lies below it, and is not itself. */
  readonly isDeeper: boolean
}

/** The folder directly below a place that leads to another folder, or is it; undefined where it lies elsewhere. */
function childBelow({ sourceId, path }: { readonly sourceId: number, readonly path: string }, under: Under | undefined): Child | undefined {
  if (!under) return { sourceId, path: '', isDeeper: path !== '' }
  if (sourceId !== under.sourceId) return undefined
  const start = under.path === '' ? '' : `${under.path}/`
  if (path === '' || !path.startsWith(start)) return undefined
  const end = path.indexOf('/', start.length)
  return { sourceId, path: end < 0 ? path : path.slice(0, end), isDeeper: end >= 0 }
}
