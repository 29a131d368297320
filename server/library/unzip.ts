import { createWriteStream } from 'node:fs'
import { mkdir, stat } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import type { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import yauzl, { type Entry, type ZipFile } from 'yauzl'
import { EmporionError, messageOf } from '../../core/errors'
import { staysInside } from '../../core/formats/package/bag'

/** What an archive may hold at most. */
export const ARCHIVE_LIMITS = {
  entries: 50_000,
  bytes: 20_000_000_000,
  /** Unpacked bytes to packed bytes, looked at above `ratioFromBytes`. */
  ratio: 200,
  ratioFromBytes: 64_000_000,
}

interface Unzipping {
  readonly signal: AbortSignal
  /** Called after every entry. */
  readonly onEntry: (done: { entries: number, total: number, bytes: number, path: string }) => void
}

const NOTHING_KEPT = 'Nothing of it was unpacked.'
const SYMBOLIC_LINK = 0o120000
const FILE_TYPE = 0o170000

/**
 * Unpacks a zip below `folder`, which must be empty. The list of contents is checked before anything is written:
 * count, size and ratio are limited, and no entry may leave the folder. Links and the hidden files of other systems
 * are left out.
 *
 * @throws EmporionError `unreadable`, `limit` or `outside`, naming the entry
 */
export async function unzipInto(archive: string, folder: string, { signal, onEntry }: Unzipping): Promise<void> {
  const entries = await wantedEntries(archive)
  const zip = await open(archive)
  try {
    let bytes = 0
    for (const [index, entry] of entries.entries()) {
      signal.throwIfAborted()
      const target = join(folder, entry.fileName)
      await mkdir(dirname(target), { recursive: true })
      await pipeline(await openEntry(zip, entry), createWriteStream(target, { flags: 'wx' }), { signal })
      bytes += entry.uncompressedSize
      onEntry({ entries: index + 1, total: entries.length, bytes, path: entry.fileName })
    }
  }
  catch (thrown) {
    signal.throwIfAborted()
    if (thrown instanceof EmporionError) throw thrown
    throw new EmporionError('unreadable', { what: `The archive could not be unpacked: ${messageOf(thrown)}.`, kept: NOTHING_KEPT })
  }
  finally {
    zip.close()
  }
}

async function wantedEntries(archive: string): Promise<Entry[]> {
  const packedBytes = (await stat(archive)).size
  const zip = await open(archive)
  try {
    if (zip.entryCount > ARCHIVE_LIMITS.entries) throw tooMuch(`${zip.entryCount} entries; ${ARCHIVE_LIMITS.entries} are the most`)
    const entries: Entry[] = []
    let bytes = 0
    for await (const entry of eachEntry(zip)) {
      if (!staysInside(entry.fileName.replace(/\/$/, ''))) {
        throw new EmporionError('outside', { what: `The archive has an entry that leaves its folder: "${entry.fileName.slice(0, 120)}".`, kept: NOTHING_KEPT, next: 'Do not trust this archive.' })
      }
      bytes += entry.uncompressedSize
      if (bytes > ARCHIVE_LIMITS.bytes) throw tooMuch(`more than ${ARCHIVE_LIMITS.bytes / 1e9} GB unpacked`)
      if (bytes > ARCHIVE_LIMITS.ratioFromBytes && bytes / packedBytes > ARCHIVE_LIMITS.ratio) {
        throw tooMuch(`more than ${ARCHIVE_LIMITS.ratio} times its own size, as no audio does`)
      }
      if (isWanted(entry)) entries.push(entry)
    }
    return entries
  }
  finally {
    zip.close()
  }
}

function isWanted(entry: Entry): boolean {
  const isLink = (entry.externalFileAttributes >>> 16 & FILE_TYPE) === SYMBOLIC_LINK
  const parts = entry.fileName.split('/')
  return !isLink && !entry.fileName.endsWith('/') && !parts.some(part => part.startsWith('.') || part === '__MACOSX')
}

function tooMuch(what: string): EmporionError {
  return new EmporionError('limit', { what: `The archive holds too much: ${what}.`, kept: NOTHING_KEPT, next: 'Unpack it yourself and bring in the folder.' })
}

function open(archive: string): Promise<ZipFile> {
  return new Promise((resolve, reject) => {
    yauzl.open(archive, { lazyEntries: true, autoClose: false }, (error, zip) => error
      ? reject(new EmporionError('unreadable', { what: `This is not a whole zip archive: ${error.message}.`, kept: NOTHING_KEPT }))
      : resolve(zip))
  })
}

async function* eachEntry(zip: ZipFile): AsyncGenerator<Entry> {
  for (let i = 0; i < zip.entryCount; i++) {
    yield await new Promise<Entry>((resolve, reject) => {
      const settle = () => {
        zip.off('entry', onEntry)
        zip.off('error', onError)
        zip.off('end', onEnd)
      }
      const onEntry = (entry: Entry) => {
        settle()
        resolve(entry)
      }
      const onError = (error: Error) => {
        settle()
        reject(/relative path|absolute path/.test(error.message)
          ? new EmporionError('outside', { what: `The archive has an entry that leaves its folder: ${error.message}.`, kept: NOTHING_KEPT, next: 'Do not trust this archive.' })
          : new EmporionError('unreadable', { what: `The archive's list of contents is damaged: ${error.message}.`, kept: NOTHING_KEPT }))
      }
      const onEnd = () => onError(new Error('it ends too early'))
      zip.on('entry', onEntry)
      zip.on('error', onError)
      zip.on('end', onEnd)
      zip.readEntry()
    })
  }
}

function openEntry(zip: ZipFile, entry: Entry): Promise<Readable> {
  return new Promise((resolve, reject) => {
    zip.openReadStream(entry, (error, stream) => error ? reject(error) : resolve(stream))
  })
}
