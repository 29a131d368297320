import { parentPort, workerData } from 'node:worker_threads'
import { DrizzleQueryError } from 'drizzle-orm'
import { log } from '../base/log'
import { EmporionError, messageOf, type ErrorCode } from '../../core/errors'
import { connect } from '../db/open'
import type { StoredRequest } from '../db/storedRequest'
import type { JobMessage, JobOrder, JobWorkerData } from '../jobs/protocol'
import { JOB_KINDS } from '../studio/jobKinds'
import { isDiskFull } from '../base/disk'

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

async function work(request: StoredRequest): Promise<void> {
  cancelling = new AbortController()
  const { signal } = cancelling
  try {
    const result = await JOB_KINDS[request.kind].run(request, {
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
  if (thrown instanceof DrizzleQueryError) log.error({ err: thrown.cause }, 'The database refused')
  return { message: thrown instanceof DrizzleQueryError ? `The database refused: ${reason}. What was finished is kept. Do it again.` : reason, code: 'broken' }
}
