import { once } from 'node:events'
import { rm } from 'node:fs/promises'
import { setTimeout as after } from 'node:timers/promises'
import { Worker } from 'node:worker_threads'
import { log } from '../base/log'

const AGAIN_AFTER_MS = 2000

/**
 * The thread that PGlite runs in. The database ends by itself where it can't go on, as on a full disk; it is opened anew then,
 * again and again until it can be: it goes back to what was confirmed, and connections find it at the same place.
 */
export class DatabaseThread {
  private worker: Worker | undefined
  private readonly stopping = new AbortController()

  constructor(private readonly options: { readonly folder: string, readonly workerFile: string }, private readonly socketPath: string) {}

  /** Opens the database. @throws what keeps it from being opened */
  async start(): Promise<void> {
    const worker = new Worker(this.options.workerFile, { workerData: { dataDir: this.options.folder, socketPath: this.socketPath } })
    await Promise.race([once(worker, 'message'), once(worker, 'exit').then(([code]) => Promise.reject(new Error(`its thread ended at once (${String(code)})`)))])
    this.worker = worker
    worker.on('error', thrown => log.error({ err: thrown }, 'The database'))
    worker.once('exit', () => {
      this.worker = undefined
      if (!this.stopping.signal.aborted) void this.again()
    })
  }

  async stop(): Promise<void> {
    this.stopping.abort()
    if (!this.worker) return
    const ended = once(this.worker, 'exit')
    this.worker.postMessage('close')
    await ended
  }

  private async again(): Promise<void> {
    log.error('The database has stopped. It is opened anew; what was confirmed is kept. Where the disk is full, free some space.')
    while (!this.stopping.signal.aborted) {
      try {
        // A named pipe goes by itself.
        if (process.platform !== 'win32') await rm(this.socketPath, { force: true })
        await this.start()
        log.error('The database is open again.')
        return
      }
      catch (thrown) {
        log.error({ err: thrown }, 'The database can\'t be opened yet')
        await after(AGAIN_AFTER_MS, undefined, { signal: this.stopping.signal }).catch(() => undefined)
      }
    }
  }
}
