import { watch, type FSWatcher } from 'node:fs'
import { join } from 'node:path'
import { and, eq, isNotNull, sql } from 'drizzle-orm'
import { schema, type Database } from '../db/open'
import type { JobRunner } from '../jobs/runner'

const { files, sources } = schema

/** Folders watched at once; the system gives each process only so many, and the rest is found by the next scan. */
const MOST_FOLDERS = 8000
/** A copy that is under way changes a folder many times: the scan waits until it has been quiet for so long. */
const QUIET_MS = 3000

/** Watches the folders of all sources that are not paused, and scans a source when something in it has changed. */
export class SourceWatch {
  private watchers: FSWatcher[] = []
  private readonly waiting = new Map<number, NodeJS.Timeout>()
  private closed = false
  private arming: Promise<void> = Promise.resolve()

  constructor(private readonly db: Database, private readonly jobs: JobRunner) {}

  /** Looks up anew which folders there are to watch: after a scan, or when sources were added, paused or removed. */
  arm(): Promise<void> {
    return this.arming = this.arming.then(() => this.armNow()).catch((thrown: unknown) => console.error('The sources could not be watched:', thrown))
  }

  close(): void {
    this.closed = true
    this.dropAll()
    for (const timer of this.waiting.values()) clearTimeout(timer)
  }

  private async armNow(): Promise<void> {
    if (this.closed) return
    const folder = sql<string>`case when position('/' in ${files.path}) = 0 then '' else regexp_replace(${files.path}, '/[^/]*$', '') end`
    const rows = await this.db.selectDistinct({ id: sources.id, root: sources.path, folder }).from(files)
      .innerJoin(sources, eq(files.sourceId, sources.id))
      .where(and(eq(sources.paused, false), eq(files.missing, false), isNotNull(files.soundId))).limit(MOST_FOLDERS)
    if (this.isClosed()) return
    this.dropAll()
    const places = new Map<string, number>()
    for (const { id, root, folder: below } of rows) {
      // Folders on the way down hold no sounds themselves, but new folders appear in them.
      for (let path = below; ; path = path.includes('/') ? path.slice(0, path.lastIndexOf('/')) : '') {
        places.set(join(root, path), id)
        if (path === '') break
      }
    }
    for (const [path, id] of places) {
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

  private isClosed(): boolean {
    return this.closed
  }

  private dropAll(): void {
    for (const watcher of this.watchers) watcher.close()
    this.watchers = []
  }

  private changed(sourceId: number): void {
    clearTimeout(this.waiting.get(sourceId))
    this.waiting.set(sourceId, setTimeout(() => {
      this.waiting.delete(sourceId)
      void this.scan(sourceId).catch((thrown: unknown) => console.error('A changed source could not be scanned:', thrown))
    }, QUIET_MS))
  }

  private async scan(sourceId: number): Promise<void> {
    const [source] = await this.db.select().from(sources).where(and(eq(sources.id, sourceId), eq(sources.paused, false)))
    if (!source || this.closed) return
    const job = await this.jobs.add({ kind: 'scan', sourceId, title: `Look at what changed in ${source.name}` })
    // A scan under way may have passed the place already.
    if (job.state === 'running') this.changed(sourceId)
  }
}
