import { createWriteStream } from 'node:fs'
import { mkdir, rm, stat } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { Transform, type Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { crc32 } from 'node:zlib'
import PQueue from 'p-queue'
import yauzl, { type Entry, type ZipFile } from 'yauzl'
import { EmporionError } from '../../core/errors'
import { staysInside } from '../../core/formats/package/bag'
import { diskError, flushFile, hasCode, realDisk } from '../base/disk'

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

/** An entry that was damaged, and so left out. */
export interface DamagedEntry {
  readonly path: string
  readonly reason: string
}

const FLUSHES_AT_ONCE = 32
/** The archive can't be read on from here: what the disk says, not what an entry is. */
const OF_DISK = ['ENOSPC', 'EDQUOT', 'EIO', 'EACCES', 'EPERM', 'EROFS', 'EMFILE', 'ENFILE']

/**
 * Unpacks a zip below `folder`, which must be empty. The list of contents is checked before anything is written:
 * count, size and ratio are limited, and no entry may leave the folder. Links and the hidden files of other systems
 * are left out. An entry whose contents are not what its CRC-32 and its size say is left out and given back; the others come
 * out. All that came out is flushed to the disk, so that the archive may go.
 *
 * @throws EmporionError `unreadable`, `limit` or `outside`, naming the entry
 */
export async function unzipInto(archive: string, folder: string, { signal, onEntry }: Unzipping): Promise<DamagedEntry[]> {
  const entries = await wantedEntries(archive)
  const zip = await open(archive)
  const damaged: DamagedEntry[] = []
  const written: string[] = []
  try {
    let bytes = 0
    for (const [index, entry] of entries.entries()) {
      signal.throwIfAborted()
      const target = join(folder, entry.fileName)
      const reason = await unpackEntry(zip, entry, target, signal)
      if (reason === undefined) written.push(target)
      else damaged.push({ path: entry.fileName, reason })
      bytes += entry.uncompressedSize
      onEntry({ entries: index + 1, total: entries.length, bytes, path: entry.fileName })
    }
    await flushAll(folder, written, signal)
    return damaged
  }
  catch (thrown) {
    signal.throwIfAborted()
    throw diskError(thrown, 'the archive could not be unpacked', NOTHING_KEPT)
  }
  finally {
    zip.close()
  }
}

/** The paths of what an archive holds. @throws EmporionError as `unzipInto` does */
export async function namesInArchive(archive: string): Promise<string[]> {
  return (await wantedEntries(archive)).map(entry => entry.fileName).filter(name => !name.endsWith('/'))
}

/** Writes an entry. Gives what is wrong with it, where it is damaged: nothing of it is left then. */
async function unpackEntry(zip: ZipFile, entry: Entry, target: string, signal: AbortSignal): Promise<string | undefined> {
  let sum = 0
  const summing = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      sum = crc32(chunk, sum)
      done(null, chunk)
    },
  })
  try {
    await mkdir(dirname(target), { recursive: true })
    await pipeline(await openEntry(zip, entry), summing, createWriteStream(target, { flags: 'wx' }), { signal })
    if (sum === entry.crc32) return undefined
    await rm(target, { force: true })
    return 'It is damaged in the archive: its checksum is another.'
  }
  catch (thrown) {
    signal.throwIfAborted()
    if (hasCode(thrown, ...OF_DISK)) throw thrown
    // A name that is there twice belongs to the entry before.
    if (hasCode(thrown, 'EEXIST', 'EISDIR', 'ENOTDIR')) return 'The archive holds another entry of this name.'
    await rm(target, { force: true })
    return entry.isEncrypted() ? 'It is encrypted. Unpack the archive yourself and bring in the folder.' : 'It is damaged in the archive, or packed in a way that can\'t be read.'
  }
}

/** Flushes files and the folders that they lie in. */
async function flushAll(folder: string, files: readonly string[], signal: AbortSignal): Promise<void> {
  const folders = new Set<string>([folder])
  for (const file of files) for (let at = dirname(file); at.length > folder.length; at = dirname(at)) folders.add(at)
  await new PQueue({ concurrency: FLUSHES_AT_ONCE }).addAll([
    ...files.map(file => () => signal.aborted ? Promise.resolve() : flushFile(file)),
    ...[...folders].map(holder => () => signal.aborted ? Promise.resolve() : realDisk.flushFolder(holder)),
  ])
  signal.throwIfAborted()
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
      ? reject(hasCode(error, 'ENOENT')
        ? new EmporionError('not-found', { what: 'The archive is not there.', kept: NOTHING_KEPT })
        : new EmporionError('unreadable', { what: 'This is not a whole zip archive: its list of contents is missing or damaged.', kept: NOTHING_KEPT, next: 'Download or copy it again.' }))
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
          ? new EmporionError('outside', { what: 'The archive has an entry that leaves its folder.', kept: NOTHING_KEPT, next: 'Do not trust this archive.' })
          : new EmporionError('unreadable', { what: 'The archive\'s list of contents is damaged.', kept: NOTHING_KEPT, next: 'Download or copy it again.' }))
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
