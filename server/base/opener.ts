import { closeSync, constants, fstatSync, openSync, readFileSync, realpathSync, type ReadStream, type Stats } from 'node:fs'
import { open, type FileHandle } from 'node:fs/promises'
import { parse, resolve } from 'node:path'
import { EmporionError } from '../../core/errors'
import { allowedPath, liesBelow, notThere } from './roots'

/** A file of the user that is open for reading. Whoever opened it closes it. */
export interface UserFile {
  /** Without links. */
  readonly path: string
  readonly size: number
  readonly modifiedMs: number
  readonly handle: FileHandle
}

/**
 * Nothing is waited for: a named pipe that nobody writes to, or a device, would otherwise hold the thread for good. What is
 * found under the name must not be a link by then: links were resolved before. Windows has neither flag.
 */
const FLAGS = constants.O_RDONLY | (constants.O_NONBLOCK ?? 0) | (constants.O_NOFOLLOW ?? 0)

/**
 * Opens a file of the user: links are resolved, what they lead to lies below one of the roots, and it is a regular file.
 *
 * @throws EmporionError `not-found`, `outside`, `invalid` for anything but a regular file, or the file system's own error
 */
export async function openUserFile(path: string, roots: readonly string[]): Promise<UserFile> {
  const real = await allowedPath(path, roots)
  const handle = await open(real, FLAGS).catch((thrown: unknown) => {
    throw openingError(thrown, path)
  })
  try {
    const found = await handle.stat()
    refuseIrregular(found, path)
    return { path: real, size: found.size, modifiedMs: found.mtimeMs, handle }
  }
  catch (thrown) {
    await handle.close()
    throw thrown
  }
}

/** Opens a file of the user, does something with it, and closes it. */
export async function usingUserFile<T>(path: string, roots: readonly string[], use: (file: UserFile) => Promise<T>): Promise<T> {
  const file = await openUserFile(path, roots)
  try {
    return await use(file)
  }
  finally {
    await file.handle.close()
  }
}

/**
 * The whole of a file of the user, as `openUserFile` opens it.
 *
 * @param mostBytes @throws EmporionError `limit` for a file that is longer
 */
export function readUserFile(path: string, roots: readonly string[], mostBytes: number): Promise<Buffer> {
  return usingUserFile(path, roots, async ({ size, handle }) => {
    refuseTooLarge(size, mostBytes)
    return handle.readFile()
  })
}

/** A file of the user as a stream, and its length. The stream closes the file. */
export async function streamUserFile(path: string, roots: readonly string[]): Promise<{ readonly stream: ReadStream, readonly size: number, readonly path: string }> {
  const file = await openUserFile(path, roots)
  return { stream: file.handle.createReadStream(), size: file.size, path: file.path }
}

/** As `readUserFile`, for threads that do nothing else: to wait for the disk in turns takes longer than a short file itself. */
export function readUserFileSync(path: string, roots: readonly string[], mostBytes: number): Buffer {
  const real = realpathSync.native(path)
  if (!roots.some(root => liesBelow(real, root))) throw new EmporionError('outside', `${path} leads out of the folders that may be read, so it was not opened.`)
  const descriptor = openSync(real, FLAGS)
  try {
    const found = fstatSync(descriptor)
    refuseIrregular(found, path)
    refuseTooLarge(found.size, mostBytes)
    return readFileSync(descriptor)
  }
  finally {
    closeSync(descriptor)
  }
}

function refuseIrregular(found: Stats, path: string): void {
  if (found.isDirectory()) throw new EmporionError('invalid', `${path} is a folder, not a file.`)
  if (!found.isFile()) throw irregular(path)
}

function irregular(path: string): EmporionError {
  return new EmporionError('invalid', { what: `${path} is no regular file but a pipe, a socket or a device, so it was not opened.`, next: 'Choose a file.' })
}

function refuseTooLarge(size: number, mostBytes: number): void {
  if (size > mostBytes) throw new EmporionError('limit', `The file has ${(size / 1e6).toFixed(0)} MB; up to ${mostBytes / 1e6} MB are read.`)
}

/** A socket can't be opened at all; a link that has come into the place of the file is not followed. */
function openingError(thrown: unknown, path: string): unknown {
  const code = thrown instanceof Error && 'code' in thrown ? thrown.code : undefined
  if (code === 'ENXIO' || code === 'ENODEV') return irregular(path)
  if (code === 'ELOOP') return new EmporionError('conflict', { what: `${path} was changed while it was being opened.`, next: 'Try again.' })
  if (code === 'ENOENT') return notThere(path)
  return thrown
}

/** The roots for a file that its user named on the command line: it may lie anywhere. */
export function anywhere(path: string): string[] {
  return [parse(resolve(path)).root]
}
