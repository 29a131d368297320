import { mkdir } from 'node:fs/promises'
import { join } from 'node:path'
import { log, logInto } from '../base/log'
import { counted } from '../../core/wording'
import { openDatabase, type Database } from '../db/open'
import { addDemo } from '../demo/demo'
import type { ScanQueue } from '../jobs/kind'
import { JobRunner } from '../jobs/runner'
import type { JobView, ScanResult } from '../../contract/jobs'
import { FinderClient } from '../library/finder/client'
import { listSources, outdatedSources } from '../library/sources'
import { SourceWatch } from '../library/watch'
import { shipPatterns } from '../patterns/shipped'
import { syncVault } from '../vault/index'
import { readConfig, type StudioConfig } from '../base/config'
import { StudioEvents } from '../base/events'
import { JOB_KINDS, type StudioJobKinds } from './jobKinds'
import { JOB_REQUESTS } from './jobRequests'
import { lockDatabase } from './databaseLock'
import { clearLeftovers } from './leftovers'
import { lockDataFolder } from './lock'

/** Everything that the routes call upon, opened once for the life of the server. */
export interface Studio {
  readonly config: StudioConfig
  readonly db: Database
  readonly events: StudioEvents
  readonly jobs: JobRunner<StudioJobKinds>
  readonly finder: FinderClient
  readonly watch: SourceWatch
  readonly close: () => Promise<void>
}

/** The first list is asked for at once, and finding out what to watch takes a look at every file. */
const ARM_AFTER_MS = 3000

let opened: Promise<Studio> | undefined

/** The studio of this process, opened on first use. */
export function useStudio(): Promise<Studio> {
  opened ??= openStudio(readConfig(process.env))
  return opened
}

async function openStudio(config: StudioConfig): Promise<Studio> {
  const unlockFolder = await lockDataFolder(config.dataDir)
  const closeLog = logInto(config.dataDir)
  const unlockDatabase = config.databaseUrl === undefined ? undefined : await lockDatabase(config.databaseUrl, endWith)
  await Promise.all([config.vaultDir, config.uploadsDir, config.cacheDir, config.tempDir].map(path => mkdir(path, { recursive: true })))
  const database = await openDatabase({
    folder: join(config.dataDir, 'db'),
    migrationsFolder: config.migrationsDir,
    workerFile: join(config.workersDir, 'pglite.worker.mjs'),
    url: config.databaseUrl,
  })
  const cleared = await clearLeftovers(database.db, config)
  if (cleared > 0) console.log(`${counted(cleared, 'file or folder', 'files and folders')} that an earlier run had left half-done ${cleared === 1 ? 'was' : 'were'} cleared away.`)
  const events = new StudioEvents()
  const jobs = new JobRunner(JOB_KINDS, JOB_REQUESTS, database.db, database.address, config, events)
  const found = await syncVault(database.db, config.vaultDir).catch((thrown: unknown) => {
    log.error({ err: thrown }, 'The vault could not be read')
    return []
  })
  await shipPatterns(database.db)
  const watch = new SourceWatch(database.db, jobs)
  const finder = new FinderClient(join(config.workersDir, 'finder.worker.mjs'), database.address, config.cacheDir, () => ({ library: events.libraryRevision, arrivals: events.arrivals, uses: events.usesRevision }))
  const warm = () => void finder.warm().catch((thrown: unknown) => log.error({ err: thrown }, 'The library could not be made ready for searches'))
  warm()
  events.listen((event) => {
    if (event.type !== 'job' || event.job.kind !== 'scan' || event.job.state === 'waiting' || event.job.state === 'running') return
    void watch.arm(foundAsBefore(event.job))
    warm()
  })
  await jobs.resume()
  if (found.length > 0) await jobs.add({ kind: 'check', revisions: found })
  await measureAnew(database.db, jobs)
  if (config.startsWithDemo && (await listSources(database.db)).length === 0) await addDemo(jobs, config)
  const arming = setTimeout(() => void watch.arm(), ARM_AFTER_MS)
  let closing: Promise<void> | undefined
  const close = async () => {
    clearTimeout(arming)
    watch.close()
    await jobs.close()
    await finder.close()
    await database.close()
    await unlockDatabase?.()
    await closeLog()
    await unlockFolder()
  }
  return {
    config,
    db: database.db,
    events,
    jobs,
    watch,
    finder,
    // A signal and the end of the server may both ask for it.
    close: () => closing ??= close(),
  }
}

/** Without the lock nothing may be written any more. */
function endWith(thrown: unknown): void {
  log.error({ err: thrown }, 'Emporion ends')
  process.exit(1)
}

/** True of a scan to whose end no file was new, changed, gone or back: the folders to watch are the same. */
function foundAsBefore({ state, result }: JobView): boolean {
  if (state !== 'done') return false
  const { read, missing, back } = result as ScanResult
  return read + missing + back === 0
}

/** Scans anew the sources with sounds that an older Emporion measured, or none. What is set by hand stays. */
async function measureAnew(db: Database, jobs: ScanQueue): Promise<void> {
  for (const source of await outdatedSources(db)) await jobs.addOnce({ kind: 'scan', sourceId: source.id, title: `Measure ${source.name} anew` })
}
