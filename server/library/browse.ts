import { readdir, realpath, stat } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { AUDIO_NAME } from '../../core/audio/extensions'
import { EmporionError, reasonOf } from '../../core/errors'
import { inNaturalOrder } from '../../core/search/naturalKey'
import { allowedPath, liesBelow } from '../base/roots'
import type { BrowsedFolder } from '../../contract/sources'

const MOST_FOLDERS = 5_000
const MOST_FILES = 2_000

/** Lists the folders in a folder, for choosing what to bring in. Without a path: the first root. */
export async function browse(path: string | undefined, roots: readonly string[]): Promise<BrowsedFolder> {
  const real = await allowedPath(path ?? roots[0]!, roots)
  if (!(await stat(real)).isDirectory()) throw new EmporionError('invalid', `${path} is a file, not a folder.`)
  const entries = await readdir(real, { withFileTypes: true }).catch((thrown: unknown) => {
    throw new EmporionError('unreadable', { what: `The folder ${real} cannot be read: ${reasonOf(thrown)}.`, next: 'Choose another one, or change its permissions.' })
  })
  const folders = inNaturalOrder(entries.filter(entry => entry.isDirectory() && !entry.name.startsWith('.')), entry => entry.name).slice(0, MOST_FOLDERS)
  const audio = inNaturalOrder(entries.filter(entry => entry.isFile() && AUDIO_NAME.test(entry.name)), entry => entry.name)
  const realRoots = await Promise.all(roots.map(root => realpath(root).catch(() => root)))
  const parent = dirname(real)
  return {
    path: real,
    parent: parent !== real && realRoots.some(root => liesBelow(parent, root)) ? parent : null,
    folders: folders.map(({ name }) => ({ name, path: join(real, name) })),
    audioFiles: audio.length,
    files: audio.slice(0, MOST_FILES).map(({ name }) => ({ name, path: join(real, name) })),
    roots: realRoots,
  }
}
