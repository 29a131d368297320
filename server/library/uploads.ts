import { randomUUID } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { mkdir, rename, rm, stat } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import type { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { EmporionError } from '../../core/errors'
import { staysInside } from '../../core/formats/package/bag'
import { portableName } from '../../core/formats/package/names'
import { diskError, flushFile, hasCode } from '../base/disk'

/** In an uploaded folder that no source needs any more, and that is kept. */
export const KEPT_MARK = '.kept'

/** Names one upload under way. */
/** Begins taking in files that were dropped on the page; they lie apart until all are there. */
export async function beginUpload(uploadsDir: string): Promise<string> {
  const id = randomUUID()
  await mkdir(partsFolder(uploadsDir, id), { recursive: true })
  return id
}

/**
 * Writes one uploaded file. A file is there whole or not at all.
 *
 * @param path below the dropped folder
 */
export async function receiveFile(uploadsDir: string, id: string, path: string, body: Readable): Promise<string> {
  const folder = partsFolder(uploadsDir, id)
  if (!staysInside(path)) throw new EmporionError('outside', `"${path}" is no path below the folder that was dropped.`)
  await stat(folder).catch(() => {
    throw notUnderWay()
  })
  const target = join(folder, path)
  const part = `${target}.${randomUUID().slice(0, 8)}.part`
  try {
    await mkdir(dirname(target), { recursive: true })
    await pipeline(body, createWriteStream(part, { flags: 'wx' }))
    await flushFile(part)
    await rename(part, target)
  }
  catch (thrown) {
    await rm(part, { force: true }).catch(() => undefined)
    // One path leads through what another calls a file, or a name is longer than the disk takes.
    if (hasCode(thrown, 'EEXIST', 'ENOTDIR', 'EISDIR', 'ENOTEMPTY', 'ENAMETOOLONG')) throw new EmporionError('invalid', { what: `"${path}" can't be kept: its name is too long, or another file has the name of one of its folders.`, kept: 'The other files are.' })
    throw diskError(thrown, `"${path}" was not received`, 'The other files are kept.')
  }
  return target
}

function notUnderWay(): EmporionError {
  return new EmporionError('not-found', { what: 'This upload is not under way.', next: 'Drop the folder again.' })
}

/** Ends an upload of a folder: its files become a folder of the data folder under a readable name. */
export async function finishUpload(uploadsDir: string, id: string, name: string): Promise<string> {
  const target = join(uploadsDir, `${portableName(name, 'folder')}-${id.slice(0, 8)}`)
  await rename(partsFolder(uploadsDir, id), target).catch((thrown: unknown) => {
    throw hasCode(thrown, 'ENOENT') ? notUnderWay() : thrown
  })
  return target
}

/** Forgets an upload that was given up. */
export async function abandonUpload(uploadsDir: string, id: string): Promise<void> {
  await rm(partsFolder(uploadsDir, id), { recursive: true, force: true })
}

function partsFolder(uploadsDir: string, id: string): string {
  return join(uploadsDir, `.receiving-${id}`)
}

const ARCHIVE_NAME = /^archive-[0-9a-f-]{36}\.zip$/

/** Writes an uploaded archive whole into the uploads folder, where its job finds it even after a crash. */
export async function receiveArchive(uploadsDir: string, body: Readable): Promise<string> {
  const id = await beginUpload(uploadsDir)
  const name = `archive-${randomUUID()}.zip`
  try {
    await rename(await receiveFile(uploadsDir, id, name, body), join(uploadsDir, name))
  }
  finally {
    await abandonUpload(uploadsDir, id)
  }
  return join(uploadsDir, name)
}

/** Accepts only the path of an archive that `receiveArchive` wrote. @throws EmporionError `invalid` */
export function receivedArchive(uploadsDir: string, path: string): string {
  if (dirname(path) === uploadsDir && ARCHIVE_NAME.test(path.slice(uploadsDir.length + 1))) return path
  throw new EmporionError('invalid', { what: 'This is no archive that was received.', kept: 'Nothing was changed.', next: 'Drop the package again.' })
}

export async function abandonArchive(path: string): Promise<void> {
  await rm(path, { force: true })
}
