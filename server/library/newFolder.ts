import { mkdir } from 'node:fs/promises'
import { join } from 'node:path'
import { EmporionError, reasonOf } from '../../core/errors'
import type { Database } from '../db/open'
import type { StudioConfig } from '../base/config'
import { browse } from './browse'
import type { BrowsedFolder } from '../../contract/sources'
import { folderForCopies } from './copies'

const LONGEST_NAME_BYTES = 255

/**
 * Makes a folder to write into: within the roots, in no source and not in the vault.
 *
 * @returns what is in it, which is nothing
 * @throws EmporionError where the name is none, or is taken
 */
export async function makeFolder({ path, name }: { readonly path: string, readonly name: string }, { db, config }: { readonly db: Database, readonly config: StudioConfig }): Promise<BrowsedFolder> {
  if (/[/\\\0]/.test(name) || name.startsWith('.')) throw new EmporionError('invalid', { what: `"${name}" can't be the name of a folder.`, kept: 'Nothing was made.', next: 'Leave out slashes, and begin with a letter or digit.' })
  if (Buffer.byteLength(name) > LONGEST_NAME_BYTES) throw new EmporionError('invalid', { what: 'That name is too long for a folder.', kept: 'Nothing was made.', next: 'Choose a shorter one.' })
  const made = join(await folderForCopies(db, config, path), name)
  await mkdir(made).catch((thrown: unknown) => {
    if (thrown instanceof Error && 'code' in thrown && thrown.code === 'EEXIST') throw new EmporionError('conflict', { what: `"${name}" is there already.`, kept: 'It is as it was.', next: 'Go there, or choose another name.' })
    throw new EmporionError('refused', { what: `The folder "${name}" can't be made in ${path}: ${reasonOf(thrown)}.`, kept: 'Nothing was made.', next: 'Choose another folder, or change its permissions.' })
  })
  return browse(made, config.roots)
}
