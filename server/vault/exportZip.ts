import { readdir, stat } from 'node:fs/promises'
import { join, relative, sep } from 'node:path'
import type { Readable } from 'node:stream'
import { ZipFile } from 'yazl'
import { EmporionError } from '../../core/errors'
import { portableName } from '../../core/formats/package/names'

const TEXT_FILE = /\.(json|sfz|txt)$/

/**
 * A preset's revision as one kit package: a zip of its bag, in one folder. Audio is stored, not packed: it hardly
 * gets smaller. The same revision gives the same bytes.
 *
 * @param bag folder of the revision
 */
export async function packageStream(bag: string, name: string, storedAt: Date): Promise<{ stream: Readable, fileName: string }> {
  const entries = await readdir(bag, { recursive: true, withFileTypes: true }).catch(() => {
    throw new EmporionError('not-found', { what: `The files of "${name}" are not in the vault any more.`, next: 'Restore its folder from a backup.' })
  })
  const paths = entries.filter(entry => entry.isFile()).map(entry => relative(bag, join(entry.parentPath, entry.name)).split(sep).join('/')).sort()
  const folder = portableName(name, 'preset')
  const zip = new ZipFile()
  for (const path of paths) {
    await stat(join(bag, path))
    zip.addFile(join(bag, path), `${folder}/${path}`, { mtime: storedAt, mode: 0o100644, compress: TEXT_FILE.test(path) })
  }
  zip.end()
  return { stream: zip.outputStream as Readable, fileName: `${folder}.zip` }
}
