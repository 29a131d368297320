import { availableParallelism } from 'node:os'
import { join } from 'node:path'
import { reasonOf } from '../../core/errors'
import { threadPool } from '../jobs/threadPool'
import type { Analysis } from './analyse'

/** Files to analyse, which lie below one of the roots. */
export interface Batch {
  readonly paths: readonly string[]
  readonly roots: readonly string[]
}

/** What analyses a batch of files at once: worker threads, or a stand-in for them. */
export interface AnalysisPool {
  run(batch: Batch, options: { readonly signal?: AbortSignal | undefined }): Promise<Analysis[]>
}

/** Of a thread's heap, in MB; samples lie outside of it. A small nursery keeps what was read from piling up. */
const THREAD_LIMITS = { maxOldGenerationSizeMb: 256, maxYoungGenerationSizeMb: 24 }

/** A thread that has nothing to do for a moment stays: another one would have to begin with cold code. */
const IDLE_MS = 5_000

type OpenPool = AnalysisPool & { destroy(): Promise<void> }

/** Worker threads on all cores, `atOnce` started before there is anything to do. */
function analysisPool(workersDir: string, atOnce = 1): OpenPool {
  return threadPool<Batch, Analysis[]>({
    filename: join(workersDir, 'analyse.worker.mjs'),
    minThreads: atOnce,
    maxThreads: availableParallelism(),
    idleTimeout: IDLE_MS,
    resourceLimits: THREAD_LIMITS,
  })
}

/** A pool that is opened when it is first wanted, since most scans find nothing to read. */
export class LatePool {
  private opened: OpenPool | undefined

  constructor(private readonly workersDir: string) {}

  open(atOnce?: number): AnalysisPool {
    return this.opened ??= analysisPool(this.workersDir, atOnce)
  }

  async close(): Promise<void> {
    await this.opened?.destroy()
  }
}

/**
 * Analyses a batch. Where a worker dies of it, its files are tried one by one, so that the one that it died of is known by
 * name and the others are not lost.
 *
 * @throws whatever the signal, where there is one, was aborted with
 */
export async function analyseBatch(pool: AnalysisPool, batch: Batch, signal?: AbortSignal): Promise<Analysis[]> {
  const { paths, roots } = batch
  try {
    return await pool.run(batch, { signal })
  }
  catch (thrown) {
    signal?.throwIfAborted()
    if (paths.length === 1) return [{ error: `Reading it ended the thread that read it: ${reasonOf(thrown)}. The file may be damaged in a way that was not foreseen.` }]
    const found: Analysis[] = []
    for (const path of paths) found.push(...await analyseBatch(pool, { paths: [path], roots }, signal))
    return found
  }
}

/** Lets one large file be read at a time, so that memory stays bounded whatever a source holds. */
export class LargeFiles {
  private last: Promise<unknown> = Promise.resolve()

  constructor(private readonly largeBytes: number) {}

  /** Does the work at once, or, with a large file in it, after those before it. */
  async run<T>(sizes: readonly number[], work: () => Promise<T>): Promise<T> {
    if (!sizes.some(size => size >= this.largeBytes)) return work()
    const mine = this.last.then(work, work)
    this.last = mine.catch(() => undefined)
    return mine
  }
}
