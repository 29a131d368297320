import { readdirSync, realpathSync } from 'node:fs'
import { join } from 'node:path'
import { pathBelow } from '../../core/formats/sfz/paths'
import { liesBelow } from '../base/roots'

/**
 * Finds files below a folder by the paths that an SFZ file gives them, whatever the case of their letters. Paths and links that leave
 * the folder lead nowhere.
 */
export class FolderFiles {
  /** Without links. */
  readonly root: string
  private readonly entries = new Map<string, Map<string, string>>()

  constructor(folder: string) {
    this.root = realpathSync(folder)
  }

  /** The real path of a file, by its path below the root or below a folder in it; undefined where there is none. */
  find(path: string, folder = ''): string | undefined {
    const below = pathBelow(path, folder)
    if (below === undefined) return undefined
    let at = this.root
    for (const part of below.split('/')) {
      const found = this.entriesOf(at).get(part.toLowerCase())
      if (found === undefined) return undefined
      at = join(at, found)
    }
    try {
      const real = realpathSync(at)
      return liesBelow(real, this.root) ? real : undefined
    }
    catch {
      return undefined
    }
  }

  /** Names in a folder by their small letters. */
  private entriesOf(folder: string): Map<string, string> {
    const known = this.entries.get(folder)
    if (known) return known
    let names: string[] = []
    try {
      names = readdirSync(folder)
    }
    catch {
      // A file in the place of a folder holds nothing.
    }
    const made = new Map(names.map(name => [name.toLowerCase(), name]))
    this.entries.set(folder, made)
    return made
  }
}
