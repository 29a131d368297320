import { createWriteStream } from 'node:fs'
import { mkdir, rm, stat } from 'node:fs/promises'
import { extname, join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { EmporionError } from '../../core/errors'
import { schema, type Database } from '../db/open'
import type { JobContext } from '../jobs/context'
import { ProgressMeter } from '../jobs/meter'
import type { StudioConfig } from '../base/config'
import { namesIn, putFree } from '../base/putFree'
import { locateSound } from './locate'
import { streamUserFile } from '../base/opener'
import { workName } from '../base/work'
import { allowedPath, liesBelow } from '../base/roots'
import { readTray } from './trays'
import type { Copied } from '../../contract/tray'

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
  const taken = await namesIn(target)
  const meter = new ProgressMeter('sounds')
  meter.setTotal(items.length)
  const missing: string[] = []
  let bytes = 0
  for (const [i, { row }] of items.entries()) {
    context.signal.throwIfAborted()
    const file = await locateSound(db, config, row.hash)
    const written = file && await copyOne(file.path, config, target, plainName(`${String(i + 1).padStart(3, '0')} ${row.name}`), taken).catch(() => false)
    if (file && written) bytes += file.size
    else missing.push(row.name)
    meter.add(1, file?.size ?? 0, written ? 0 : 1)
    context.report(meter.progress(row.name))
  }
  return { folder: target, copied: items.length - missing.length, bytes, missing }
}

async function copyOne(from: string, { roots, dataDir }: StudioConfig, folder: string, stem: string, taken: Set<string>): Promise<boolean> {
  const part = join(folder, workName(dataDir))
  try {
    await pipeline((await streamUserFile(from, roots)).stream, createWriteStream(part, { flags: 'wx' }))
    await putFree(part, folder, n => `${stem}${n > 1 ? ` (${n})` : ''}${extname(from)}`, false, taken)
    return true
  }
  catch (thrown) {
    await rm(part, { force: true })
    throw thrown
  }
}

/** A name that every drive knows. */
function plainName(name: string): string {
  return withinBytes(name.replace(/[<>:"/\\|?*\p{Cc}]/gu, '_').slice(0, 120).trim(), LONGEST_NAME_BYTES)
}

/** Most drives take names of 255 bytes; an ending and a number come behind it. */
const LONGEST_NAME_BYTES = 220

/** As many of its characters as so many bytes of UTF-8 hold. */
function withinBytes(name: string, most: number): string {
  let kept = name
  while (Buffer.byteLength(kept) > most) kept = [...kept].slice(0, -1).join('')
  return kept
}
