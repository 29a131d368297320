import { readdir } from 'node:fs/promises'
import { dirname, extname, join, relative, sep } from 'node:path'
import { EmporionError } from '../../core/errors'
import { listed } from '../../core/wording'

const DEEPEST = 12
const MOST_ENTRIES = 50_000
const MOST_NAMED = 12

/** An SFZ file, and the folder below which it may name samples. */
export interface SfzPlace {
  readonly file: string
  readonly root: string
}

/** SFZ files of a folder at any depth, by their paths below it with `/`, those nearest first. Links to folders are not followed. */
export async function sfzFilesIn(folder: string): Promise<string[]> {
  const found: string[] = []
  let entries = 0
  const look = async (at: string, depth: number): Promise<void> => {
    if (depth > DEEPEST) return
    for (const entry of await readdir(at, { withFileTypes: true })) {
      if (++entries > MOST_ENTRIES) return
      if (entry.name.startsWith('.')) continue
      const whole = join(at, entry.name)
      if (entry.isDirectory()) await look(whole, depth + 1)
      // Where a link leads to is looked at when it is read.
      else if ((entry.isFile() || entry.isSymbolicLink()) && isSfz(entry.name)) found.push(relative(folder, whole).split(sep).join('/'))
    }
  }
  await look(folder, 0)
  return nearestFirst(found)
}

export function isSfz(path: string): boolean {
  return extname(path).toLowerCase() === '.sfz'
}

/** Sorted by how deep they lie, then by their names. */
export function nearestFirst(paths: readonly string[]): string[] {
  const depth = (path: string) => path.split('/').length
  return paths.toSorted((a, b) => depth(a) - depth(b) || a.localeCompare(b, 'en', { numeric: true }))
}

/**
 * The one of several SFZ files that is asked for: by its path, its name without the ending, or its number from 1; the first without.
 *
 * @throws EmporionError `not-found`
 */
export function sfzAsked(paths: readonly string[], asked: string | undefined): string {
  if (asked === undefined) return paths[0]!
  const wanted = asked.trim().toLowerCase()
  const nameOf = (path: string) => path.slice(path.lastIndexOf('/') + 1, -'.sfz'.length).toLowerCase()
  const found = paths.find(path => path.toLowerCase() === wanted || wanted.endsWith(`/${path.toLowerCase()}`)) ?? paths.find(path => nameOf(path) === wanted) ?? (/^\d+$/.test(wanted) ? paths[Number(wanted) - 1] : undefined)
  if (found === undefined) throw new EmporionError('not-found', { what: `There is no SFZ file "${asked}".`, next: `There ${paths.length === 1 ? 'is' : 'are'} ${listed([...paths], MOST_NAMED)}.` })
  return found
}

/** Where a file that was given by itself may find samples: in its folder, and beside that, as in `Programs/` and `Samples/`. */
export function besideFile(file: string): SfzPlace {
  return { file, root: dirname(dirname(file)) }
}

/** A text as UTF-8, or as Latin-1 where it is none. */
export function sfzText(bytes: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  }
  catch {
    return new TextDecoder('windows-1252').decode(bytes)
  }
}
