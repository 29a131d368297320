import { randomUUID } from 'node:crypto'
import { mkdir, open, rename, rm, statfs, writeFile } from 'node:fs/promises'
import { LARGEST_FILE_BYTES } from '../../core/audio/decode'
import { anywhere, readUserFile } from './opener'
import { EmporionError } from '../../core/errors'

/** The disk as the vault writes it: every file is flushed before it counts. Tests put a failing one in its place. */
export interface Disk {
  makeFolder(path: string): Promise<void>
  /** A file with audio that was found before: see `locateSound`. */
  readFile(path: string): Promise<Uint8Array>
  /** Writes a file and flushes it to the medium. */
  writeFile(path: string, bytes: Uint8Array): Promise<void>
  /** Flushes a folder's own entries, so that new names survive a power cut. */
  flushFolder(path: string): Promise<void>
  rename(from: string, to: string): Promise<void>
  remove(path: string): Promise<void>
}

export const realDisk: Disk = {
  async makeFolder(path) {
    await mkdir(path, { recursive: true })
  },
  // Where it was found, links were resolved and its place was allowed.
  readFile: path => readUserFile(path, anywhere(path), LARGEST_FILE_BYTES),
  async writeFile(path, bytes) {
    await writeFile(path, bytes, { flag: 'wx', flush: true })
  },
  async flushFolder(path) {
    const handle = await open(path, 'r')
    try {
      await handle.sync()
    }
    finally {
      await handle.close()
    }
  },
  rename,
  remove: path => rm(path, { recursive: true, force: true }),
}

/** Flushes a file that was written by other means to the medium. */
export async function flushFile(path: string): Promise<void> {
  const handle = await open(path, 'r+')
  try {
    await handle.sync()
  }
  finally {
    await handle.close()
  }
}

/** True for an error of the file system with this code. */
export function hasCode(thrown: unknown, ...codes: readonly string[]): boolean {
  return thrown instanceof Error && 'code' in thrown && typeof thrown.code === 'string' && codes.includes(thrown.code)
}

/** No room: error codes of the file system, and of PostgreSQL (15, appendix A: `disk_full`). */
const FULL = ['ENOSPC', 'EDQUOT', '53100']

/** True for an error that comes of a full disk, of the file system or of the database, or is caused by one. */
export function isDiskFull(thrown: unknown): boolean {
  return hasCode(thrown, ...FULL) || (thrown instanceof Error && thrown.cause !== undefined && isDiskFull(thrown.cause))
}

/**
 * Room that is to be left on the disk before more is brought in. The database sets 16 MB aside at a time, and stops altogether
 * where it can't, for a star as for ten thousand files.
 */
const LEAST_FREE_BYTES = 64_000_000

/** @throws EmporionError `disk-full` when too little is free where a folder lies */
export async function needRoom(folder: string, doing: string, kept: string): Promise<void> {
  const { bavail, bsize } = await statfs(folder)
  if (bavail * bsize >= LEAST_FREE_BYTES) return
  throw new EmporionError('disk-full', { what: `The disk with ${folder} is nearly full, so ${doing}.`, kept, next: `Free some space, so that at least ${LEAST_FREE_BYTES / 1e6} MB are left, and do it again.` })
}

/** Turns a full or failing disk into words; anything else is given back as it is. */
export function diskError(thrown: unknown, doing: string, kept: string): unknown {
  if (isDiskFull(thrown)) {
    return new EmporionError('disk-full', { what: `The disk is full, so ${doing}.`, kept, next: 'Free some space and do it again.' })
  }
  if (hasCode(thrown, 'EACCES', 'EPERM', 'EROFS', 'EIO')) {
    return new EmporionError('broken', { what: `The disk refused (${(thrown as Error).message}), so ${doing}.`, kept, next: 'Check the data folder and do it again.' })
  }
  return thrown
}

/** Writes a small file whole or not at all. */
export async function writeAtomically(path: string, text: string): Promise<void> {
  const part = `${path}.${randomUUID().slice(0, 8)}.part`
  await writeFile(part, text, { flush: true })
  await rename(part, path)
}
