import { constants } from 'node:fs'
import { copyFile, mkdir, readdir, rename, rm, stat } from 'node:fs/promises'
import { extname, join } from 'node:path'
import { EmporionError } from '../../core/errors'
import { schema, type Database } from '../db/open'
import type { JobContext } from '../jobs/context'
import { ProgressMeter } from '../jobs/meter'
import type { StudioConfig } from '../studio/config'
import { locateSound } from './locate'
import { allowedPath, liesBelow } from './roots'
import { readTray } from './trays'

/** What came of copying a tray. */
export interface Copied {
  readonly folder: string
  readonly copied: number
  readonly bytes: number
  /** Names of sounds of which no file could be found or read. */
  readonly missing: readonly string[]
}

/**
 * A folder that copies may be put into: one that is there, within the roots, and in no source, since sources are never
 * written to.
 *
 * @throws EmporionError
 */
export async function folderForCopies(db: Database, config: StudioConfig, path: string): Promise<string> {
  const folder = await allowedPath(path.trim(), config.roots)
  if (!(await stat(folder)).isDirectory()) throw new EmporionError('invalid', { what: `${path} is a file, not a folder.`, next: 'Choose a folder.' })
  const sources = await db.select({ name: schema.sources.name, path: schema.sources.path }).from(schema.sources)
  const source = sources.find(candidate => liesBelow(folder, candidate.path))
  if (source) throw new EmporionError('refused', { what: `${path} lies in the source "${source.name}", and sources are never written to.`, next: 'Choose a folder outside of it.' })
  if (liesBelow(folder, config.vaultDir)) throw new EmporionError('refused', { what: `${path} lies in the vault.`, next: 'Choose another folder.' })
  return folder
}

/** Copies the sounds of a tray into a folder, numbered in their order. Nothing that lies there is overwritten. */
export async function copyTray({ trayId, folder }: { readonly trayId: number, readonly folder: string }, context: JobContext): Promise<Copied> {
  const { db, config } = context
  const target = await folderForCopies(db, config, folder)
  await mkdir(target, { recursive: true })
  const items = await readTray(db, trayId)
  const taken = new Set((await readdir(target)).map(name => name.toLowerCase()))
  const meter = new ProgressMeter('sounds')
  meter.setTotal(items.length)
  const missing: string[] = []
  let bytes = 0
  for (const [i, { row }] of items.entries()) {
    context.signal.throwIfAborted()
    const file = await locateSound(db, config, row.hash)
    const written = file && await copyOne(file.path, target, freeName(`${String(i + 1).padStart(3, '0')} ${row.name}`, extname(file.path), taken)).catch(() => false)
    if (file && written) bytes += file.size
    else missing.push(row.name)
    meter.add(1, file?.size ?? 0, written ? 0 : 1)
    context.report(meter.progress(row.name))
  }
  return { folder: target, copied: items.length - missing.length, bytes, missing }
}

async function copyOne(from: string, folder: string, name: string): Promise<boolean> {
  const part = join(folder, `.${name}.part`)
  try {
    await copyFile(from, part, constants.COPYFILE_EXCL)
    await rename(part, join(folder, name))
    return true
  }
  catch (thrown) {
    await rm(part, { force: true })
    throw thrown
  }
}

/** A name that no file of the folder has, on disks that know no capitals either. */
function freeName(stem: string, ending: string, taken: Set<string>): string {
  const plain = stem.replace(/[<>:"/\\|?*\p{Cc}]/gu, '_').slice(0, 120).trim()
  for (let n = 1; ; n++) {
    const name = `${plain}${n > 1 ? ` (${n})` : ''}${ending}`
    if (taken.has(name.toLowerCase())) continue
    taken.add(name.toLowerCase())
    return name
  }
}
