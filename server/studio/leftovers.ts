import type { Dirent } from 'node:fs'
import { readdir, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { inArray } from 'drizzle-orm'
import PQueue from 'p-queue'
import { clearExports } from '../bounce/exports'
import { schema, type Database } from '../db/open'
import { liesBelow } from '../base/roots'
import { workPrefix } from '../base/work'
import type { StoredRequest } from '../db/storedRequest'
import { KEPT_MARK } from '../library/uploads'
import { readRequest } from '../jobs/kind'
import { JOB_KINDS } from './jobKinds'
import { JOB_REQUESTS } from './jobRequests'
import { BIN_FOLDER, isUnfinished, revisionNumber } from '../vault/layout'
import type { StudioConfig } from '../base/config'

const { jobs, sources } = schema

const AT_ONCE = 16
const PART = /\.part$/

/**
 * Takes away what a process that was killed left half-done, before any job goes on: whatever no job and no source owns. Nothing of it
 * was ever confirmed. Gives how many files and folders that were.
 */
export async function clearLeftovers(db: Database, config: StudioConfig): Promise<number> {
  const open = (await db.select({ request: jobs.request }).from(jobs).where(inArray(jobs.state, ['waiting', 'running']))).flatMap(({ request }) => readRequest(JOB_REQUESTS, request) ?? [])
  const owned = [...(await db.select({ path: sources.path }).from(sources)).map(({ path }) => path), ...open.flatMap(request => JOB_KINDS[request.kind].needs(request))]
  const left = [
    ...await unownedUploads(config.uploadsDir, owned),
    ...await inVault(config.vaultDir),
    ...await partsIn(join(config.dataDir, 'targets')),
    ...await partsIn(join(config.cacheDir, 'fit')),
    ...await entriesOf(config.tempDir).then(entries => entries.map(pathOf)),
    ...await besideTheirPlaces(open, config.dataDir),
  ]
  await new PQueue({ concurrency: AT_ONCE }).addAll(left.map(path => () => rm(path, { recursive: true, force: true })))
  return left.length + await clearExports(config.cacheDir)
}

async function unownedUploads(uploadsDir: string, owned: readonly string[]): Promise<string[]> {
  const unowned = (await entriesOf(uploadsDir)).map(pathOf).filter(path => !owned.some(own => own === path || liesBelow(own, path)))
  const kept = await Promise.all(unowned.map(async path => (await entriesOf(path)).some(({ name }) => name === KEPT_MARK)))
  return unowned.filter((_, i) => !kept[i])
}

/** What was being stored, imported or deleted, and the bin's folders that hold no preset any more. */
async function inVault(vaultDir: string): Promise<string[]> {
  const entries = await entriesOf(vaultDir)
  const presets = entries.filter(entry => entry.isDirectory() && !entry.name.startsWith('.'))
  const within = await new PQueue({ concurrency: AT_ONCE }).addAll(presets.map(entry => () => partsIn(pathOf(entry), 0)))
  const binned = await entriesOf(join(vaultDir, BIN_FOLDER))
  const empty = await Promise.all(binned.map(async entry => (await entriesOf(pathOf(entry))).some(({ name }) => revisionNumber(name) !== undefined) ? [] : [pathOf(entry)]))
  return [...entries.filter(({ name }) => isUnfinished(name)).map(pathOf), ...within.flat(), ...empty.flat()]
}

/** Files that were being written, in a folder and so many levels below it. */
async function partsIn(folder: string, levels = 1): Promise<string[]> {
  const entries = await entriesOf(folder)
  const below = levels > 0 ? await Promise.all(entries.filter(entry => entry.isDirectory()).map(entry => partsIn(pathOf(entry), levels - 1))) : []
  return [...entries.filter(({ name }) => PART.test(name)).map(pathOf), ...below.flat()]
}

/** What jobs that were broken off were writing into folders of the user. */
async function besideTheirPlaces(open: readonly StoredRequest[], dataDir: string): Promise<string[]> {
  const folders = new Set(open.map(request => JOB_KINDS[request.kind].writesInto(request)).filter(folder => folder !== null))
  const prefix = workPrefix(dataDir)
  const found = await Promise.all([...folders].map(async folder => (await entriesOf(folder)).filter(({ name }) => name.startsWith(prefix)).map(pathOf)))
  return found.flat()
}

function entriesOf(folder: string): Promise<Dirent[]> {
  return readdir(folder, { withFileTypes: true }).catch(() => [])
}

function pathOf(entry: Dirent): string {
  return join(entry.parentPath, entry.name)
}
