import { parentPort, workerData } from 'node:worker_threads'
import { DrizzleQueryError } from 'drizzle-orm'
import { EmporionError, messageOf, type ErrorCode } from '../../core/errors'
import { connect } from '../db/open'
import type { JobContext } from '../jobs/context'
import type { JobMessage, JobOrder, JobWorkerData } from '../jobs/protocol'
import type { JobRequest } from '../jobs/types'
import { isDiskFull } from '../vault/disk'

const { config, address } = workerData as JobWorkerData
const send = (message: JobMessage) => parentPort?.postMessage(message)
const { db, close } = connect(address, 2)
let cancelling = new AbortController()

parentPort?.on('message', (order: JobOrder) => {
  if (order.type === 'run') void work(order.request)
  else if (order.type === 'cancel') cancelling.abort(new EmporionError('cancelled', 'Cancelled.'))
  // Of this thread alone, and of those that it has started.
  else void close().finally(() => process.exit())
})

async function work(request: JobRequest): Promise<void> {
  cancelling = new AbortController()
  const { signal } = cancelling
  try {
    const result = await run(request, {
      db,
      config,
      signal,
      report: progress => send({ type: 'progress', progress }),
      changed: what => send({ type: 'changed', what }),
    })
    send({ type: 'done', result })
  }
  catch (thrown) {
    if (signal.aborted) send({ type: 'cancelled' })
    else send({ type: 'failed', ...failureOf(thrown) })
  }
}

function failureOf(thrown: unknown): { message: string, code: ErrorCode } {
  if (thrown instanceof EmporionError) return { message: thrown.message, code: thrown.code }
  if (isDiskFull(thrown)) return { message: 'The disk is full. What was finished is kept. Free some space and do it again.', code: 'disk-full' }
  // What the database was asked holds every row that was to be written.
  const reason = thrown instanceof DrizzleQueryError ? messageOf(thrown.cause) : messageOf(thrown)
  if (thrown instanceof DrizzleQueryError) console.error(reason)
  return { message: thrown instanceof DrizzleQueryError ? `The database refused: ${reason}. What was finished is kept. Do it again.` : reason, code: 'broken' }
}

/** Loads what the job needs and no more: decoders and archives take as long to load as a short scan takes. */
async function run(asked: JobRequest, context: JobContext): Promise<unknown> {
  switch (asked.kind) {
    case 'scan':
      return (await import('../library/scan')).scanSource(asked.sourceId, context)
    case 'demo':
      return (await import('../demo/demoJob')).demoJob(asked, context)
    case 'redraw':
      return (await import('../library/redraw')).redraw(asked, context)
    case 'compare':
      return (await import('../library/compare')).compareSounds(context)
    case 'mark':
    case 'unmark':
      return (await import('../library/markJob')).markJob(asked, context)
    case 'copy':
      return (await import('../library/copies')).copyTray(asked, context)
    case 'unpack':
      return (await import('../library/unpack')).unpackArchive(asked, context)
    case 'store':
      return (await import('../vault/storeJob')).storeJob(asked, context)
    case 'check':
      return (await import('../vault/checkJob')).checkPresets(asked, context)
    case 'bounce':
      return (await import('../bounce/bounceJob')).bounceJob(asked, context)
    case 'measure':
      return (await import('../fit/fitJobs')).measureJob(asked, context)
    case 'fit':
      return (await import('../fit/fitJobs')).writeJob(asked, context)
    case 'hear':
      return (await import('../fit/fitJobs')).hearJob(asked, context)
    case 'foreign':
      return (await import('../fit/fitJobs')).foreignJob(asked, context)
    case 'import':
      return (await import('../vault/importPackage')).importPackage(asked, context)
  }
}
