import { watch, type FSWatcher } from 'node:fs'
import { join } from 'node:path'
import { and, eq, isNotNull, sql } from 'drizzle-orm'
import { log } from '../base/log'
import { schema, type Database } from '../db/open'
import type { ScanQueue } from '../jobs/kind'

const { files, sources } = schema

/** Folders watched at once; the system gives each process only so many, and the rest is found by the next scan. */
const MOST_FOLDERS = 8000
/** A copy that is under way changes a folder many times: the scan waits until it has been quiet for so long. */
const QUIET_MS = 3000

/** Watches the folders of all sources that are not paused, and scans a source when something in it has changed. */
export class SourceWatch {
  private watchers: FSWatcher[] = []
  /** The folders that were last found to be watched, and their sources. */
  private places: ReadonlyMap<string, number> | undefined
  private readonly waiting = new Map<number, NodeJS.Timeout>()
  private closed = false
  private arming: Promise<void> = Promise.resolve()

  constructor(private readonly db: Database, private readonly jobs: ScanQueue) {}

  /**
   * Watches anew: after a scan, or when sources were added, paused or removed.
   *
   * @param areSame true where the folders are those of before, which are then not looked up; a drive may have been away meanwhile
   */
  arm(areSame = false): Promise<void> {
    return this.arming = this.arming.then(() => this.armNow(areSame)).catch((thrown: unknown) => log.error({ err: thrown }, 'The sources could not be watched'))
  }

  close(): void {
    this.closed = true
    this.cancelAll()
    for (const timer of this.waiting.values()) clearTimeout(timer)
  }

  private async armNow(areSame: boolean): Promise<void> {
    if (this.closed) return
    if (!areSame || !this.places) this.places = await this.placesToWatch()
    if (this.isClosed()) return
    this.cancelAll()
    for (const [path, id] of this.places) {
      try {
        const watcher = watch(path, () => this.changed(id))
        watcher.on('error', () => watcher.close())
        this.watchers.push(watcher)
      }
      catch {
        // A folder that is away, or one more than the system allows: the next scan sees to it.
        continue
      }
    }
  }

  /** Folders with sounds in or below them, and their sources. */
  private async placesToWatch(): Promise<Map<string, number>> {
    const places = new Map<string, number>()
    const folder = sql<string>`left(${files.path}, -position('/' in reverse(${files.path})))`
    // Source by source, so that a search need not wait for a look at every file.
    for (const { id, root } of await this.db.select({ id: sources.id, root: sources.path }).from(sources).where(eq(sources.paused, false))) {
      if (places.size >= MOST_FOLDERS) break
      const rows = await this.db.selectDistinct({ folder }).from(files)
        .where(and(eq(files.sourceId, id), eq(files.missing, false), isNotNull(files.soundId))).limit(MOST_FOLDERS - places.size)
      for (const { folder: below } of rows) {
        // Folders on the way down hold no sounds themselves, but new folders appear in them.
        for (let path = below; ; path = path.includes('/') ? path.slice(0, path.lastIndexOf('/')) : '') {
          places.set(join(root, path), id)
          if (path === '') break
        }
      }
    }
    return places
  }

  private isClosed(): boolean {
    return this.closed
  }

  private cancelAll(): void {
    for (const watcher of this.watchers) watcher.close()
    this.watchers = []
  }

  private changed(sourceId: number): void {
    clearTimeout(this.waiting.get(sourceId))
    this.waiting.set(sourceId, setTimeout(() => {
      this.waiting.delete(sourceId)
      void this.scan(sourceId).catch((thrown: unknown) => log.error({ err: thrown }, 'A changed source could not be scanned'))
    }, QUIET_MS))
  }

  private async scan(sourceId: number): Promise<void> {
    const [source] = await this.db.select().from(sources).where(and(eq(sources.id, sourceId), eq(sources.paused, false)))
    if (!source || this.closed) return
    const { job, isNew } = await this.jobs.addOnce({ kind: 'scan', sourceId, title: `Look at what changed in ${source.name}` })
    // A scan that was under way before may have passed the place already: asked again once it is over.
    if (!isNew && job.state === 'running') this.changed(sourceId)
  }
}
