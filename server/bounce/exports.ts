import { createReadStream } from 'node:fs'
import { mkdir, readdir, rm, stat } from 'node:fs/promises'
import { join, relative, sep } from 'node:path'
import type { Readable } from 'node:stream'
import { ZipFile } from 'yazl'
import { EmporionError } from '../../core/errors'

/** Files that wait to be downloaded are kept this long. */
const KEEP_MS = 24 * 3600_000

/** The folder in the cache in which files wait to be downloaded. */
export function exportsDir(cacheDir: string): string {
  return join(cacheDir, 'exports')
}

/** Takes away what was made to be downloaded a day ago or before, and what was not finished. Gives how many that were. */
export async function clearExports(cacheDir: string): Promise<number> {
  const folder = exportsDir(cacheDir)
  await mkdir(folder, { recursive: true })
  let cleared = 0
  for (const name of await readdir(folder)) {
    const path = join(folder, name)
    const { mtimeMs } = await stat(path)
    if (!name.startsWith('.') && Date.now() - mtimeMs <= KEEP_MS) continue
    await rm(path, { recursive: true, force: true })
    cleared++
  }
  return cleared
}

/**
 * A file that waits to be downloaded, or an archive of several, with their folders. Audio in it is stored, not packed: it hardly
 * gets smaller.
 *
 * @param archiveName what an archive is called, without its ending
 * @param single the one file of several that is wanted
 */
export async function openExport(cacheDir: string, id: string, archiveName = 'stems', single?: string): Promise<{ stream: Readable, fileName: string, type: string }> {
  const folder = join(exportsDir(cacheDir), id)
  const entries = await readdir(folder, { recursive: true, withFileTypes: true }).catch(() => [])
  const all = entries.filter(entry => entry.isFile()).map(entry => relative(folder, join(entry.parentPath, entry.name)).split(sep).join('/')).sort()
  const names = single === undefined ? all : all.filter(name => name === single)
  const [only] = names
  if (!only) throw new EmporionError('not-found', { what: 'These files are no longer there to be downloaded.', next: 'Make them again.' })
  if (names.length === 1) return { stream: createReadStream(join(folder, only)), fileName: only, type: 'audio/wav' }
  const zip = new ZipFile()
  for (const name of names) zip.addFile(join(folder, name), name, { compress: false })
  zip.end()
  return { stream: zip.outputStream as Readable, fileName: `${archiveName}.zip`, type: 'application/zip' }
}
