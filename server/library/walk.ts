import { readdirSync, realpathSync, statSync } from 'node:fs'
import { realpath } from 'node:fs/promises'
import { join } from 'node:path'
import { setImmediate } from 'node:timers/promises'
import { AUDIO_EXTENSIONS } from '../../core/audio/extensions'
import { reasonOf } from '../../core/errors'
import { liesBelow } from '../base/roots'

export interface WalkedFile {
  readonly type: 'file'
  /** Below the folder that is walked, with `/` between its parts. */
  readonly path: string
  readonly size: number
  readonly modifiedMs: number
}

export interface WalkedProblem {
  readonly type: 'problem'
  readonly path: string
  readonly reason: string
}

/** A file that is no audio by its name. */
export interface WalkedOther {
  readonly type: 'other'
  /** What its name ends with, in small letters and without the dot; empty where that is hardly meant as an ending. */
  readonly ending: string
}

/** What stands in a name for bytes that are no UTF-8. */
const NOT_UTF8 = '\uFFFD'
const UNNAMEABLE = 'Its name, or that of a folder that it lies in, is not valid UTF-8, so it cannot be opened by it. Rename it.'

/** More than any drive of samples has, and as much as the database's indexes hold. */
const LONGEST_PATH = 640
/** Of a longer one, at its beginning and at its end. */
const SHOWN_OF_PATH = 200

const EXTENSIONS = new Set(AUDIO_EXTENSIONS)
const ENDING = /\.([a-z0-9]{1,8})$/i

/** Entries looked at in one go: waiting for each by itself takes ten times as long, and cancelling must get a turn. */
const ENTRIES_IN_ONE_GO = 200

/** A folder that is yet to be read: where it lies below the root, and where in truth, without links. */
interface Folder {
  readonly path: string
  readonly real: string
}

export type Walked = WalkedFile | WalkedProblem | WalkedOther

/**
 * Walks a folder and all below it, and gives what it finds in parts. Runs in threads that nobody waits for, so it asks the
 * file system directly. Hidden files and folders and files of other kinds are passed over (the latter are counted); links are
 * followed only to what lies below the folder itself, and no folder is entered twice.
 */
export async function* walk(root: string): AsyncGenerator<readonly Walked[]> {
  const realRoot = await realpath(root)
  const entered = new Set<string>()
  const waiting: Folder[] = [{ path: '', real: realRoot }]
  let part: Walked[] = []
  while (waiting.length > 0) {
    const { path: folder, real } = waiting.pop()!
    if (entered.has(real)) continue
    entered.add(real)
    try {
      for (const entry of readdirSync(real, { withFileTypes: true })) {
        if (entry.name.startsWith('.')) continue
        const path = folder ? `${folder}/${entry.name}` : entry.name
        if (entry.isSymbolicLink()) part.push(...linked(root, realRoot, path, waiting))
        else if (entry.isDirectory()) waiting.push({ path, real: join(real, entry.name) })
        else if (entry.isFile()) part.push(describe(root, path))
        if (part.length < ENTRIES_IN_ONE_GO) continue
        yield part
        part = []
        await setImmediate()
      }
    }
    catch (thrown) {
      part.push(problem(folder || '.', unreadable(folder, thrown)))
    }
  }
  yield part
}

function unreadable(folder: string, thrown: unknown): string {
  if (folder.includes(NOT_UTF8)) return UNNAMEABLE
  return isGone(thrown) ? 'The folder went away while it was being read.' : `The folder could not be read: ${reasonOf(thrown)}.`
}

function isGone(thrown: unknown): boolean {
  return thrown instanceof Error && 'code' in thrown && thrown.code === 'ENOENT'
}

function linked(root: string, realRoot: string, path: string, waiting: Folder[]): Walked[] {
  const target = realPathOf(join(root, path))
  if (target === undefined || !liesBelow(target, realRoot)) {
    return isAudio(path) ? [problem(path, 'This is a link that leads out of the folder that was brought in, so it was not followed.')] : []
  }
  const found = statSync(target, { throwIfNoEntry: false })
  if (found?.isDirectory()) waiting.push({ path, real: target })
  return found?.isFile() ? [describe(root, path)] : []
}

function realPathOf(path: string): string | undefined {
  try {
    return realpathSync(path)
  }
  catch {
    return undefined
  }
}

function describe(root: string, path: string): Walked {
  if (!isAudio(path)) return { type: 'other', ending: ENDING.exec(path)?.[1]?.toLowerCase() ?? '' }
  if (path.length > LONGEST_PATH) return problem(path, `Its path below the source has ${path.length} characters; up to ${LONGEST_PATH} are kept. Move it to a shorter one.`)
  try {
    const { size, mtimeMs } = statSync(`${root}/${path}`)
    return { type: 'file', path, size, modifiedMs: mtimeMs }
  }
  catch (thrown) {
    if (path.includes(NOT_UTF8)) return problem(path, UNNAMEABLE)
    return problem(path, `The file could not be looked at: ${reasonOf(thrown)}.`)
  }
}

function problem(path: string, reason: string): WalkedProblem {
  return { type: 'problem', path: path.length > LONGEST_PATH ? `${path.slice(0, SHOWN_OF_PATH)} ... ${path.slice(-SHOWN_OF_PATH)}` : path, reason }
}

function isAudio(path: string): boolean {
  const dot = path.lastIndexOf('.')
  return dot >= 0 && EXTENSIONS.has(path.slice(dot + 1).toLowerCase())
}
