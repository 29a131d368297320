import { availableParallelism } from 'node:os'
import { join } from 'node:path'
import type { Piscina } from 'piscina'
import { EmporionError } from '../../core/errors'
import { ProgressMeter } from '../jobs/meter'
import type { JobContext } from '../jobs/context'
import { threadPool } from '../jobs/threadPool'
import { STOP, type BouncePart, type PartResult, type WrittenFile } from './part'

const LOOK_MS = 100

let pool: Piscina<BouncePart, PartResult> | undefined

/** Threads on all cores, for as long as the thread that asks for them. */
function threads(workersDir: string): Piscina<BouncePart, PartResult> {
  pool ??= threadPool({ filename: join(workersDir, 'bounce.worker.mjs'), minThreads: availableParallelism(), maxThreads: availableParallelism() })
  return pool
}

/**
 * Renders the parts of a bounce, each in a thread of its own.
 *
 * @param frames about how long each is
 * @returns the files of each part
 * @throws EmporionError that a part ended with; whatever the signal was aborted with
 */
export async function renderParts(parts: readonly Omit<BouncePart, 'state' | 'place'>[], frames: number, doing: string, { config, signal, report }: JobContext): Promise<(readonly WrittenFile[])[]> {
  signal.throwIfAborted()
  const state = new Int32Array(new SharedArrayBuffer((1 + parts.length) * Int32Array.BYTES_PER_ELEMENT))
  const stop = () => void Atomics.store(state, STOP, 1)
  const looking = setInterval(telling(state.subarray(1), frames, parts[0]!.request.sampleRate, doing, report), LOOK_MS)
  signal.addEventListener('abort', stop)
  try {
    // All are waited for, also when one has failed: nobody writes any more when their folder goes.
    const results = await Promise.allSettled(parts.map(async (part, i) => {
      try {
        const result = await threads(config.workersDir).run({ ...part, state, place: 1 + i })
        if ('failed' in result) throw new EmporionError(result.failed.code, result.failed.message)
        return result.files
      }
      catch (thrown) {
        stop()
        throw thrown
      }
    }))
    signal.throwIfAborted()
    return results.map((result) => {
      if (result.status === 'rejected') throw result.reason
      return result.value
    })
  }
  finally {
    clearInterval(looking)
    signal.removeEventListener('abort', stop)
  }
}

/** Tells how many seconds all parts have rendered together. */
function telling(rendered: Int32Array, frames: number, rate: number, doing: string, report: JobContext['report']): () => void {
  const meter = new ProgressMeter('seconds of audio')
  const total = Math.max(1, Math.ceil(rendered.length * frames / rate))
  meter.setTotal(total)
  let told = 0
  return () => {
    const done = Math.min(total, Math.floor(rendered.reduce((sum, part) => sum + Math.min(part, frames), 0) / rate))
    meter.add(done - told)
    told = done
    report(meter.progress(doing))
  }
}
