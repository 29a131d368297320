import { parentPort, workerData } from 'node:worker_threads'
import { EmporionError, messageOf } from '../../core/errors'
import { connect } from '../db/open'
import type { JobContext } from '../jobs/context'
import type { JobMessage, JobWorkerData } from '../jobs/protocol'
import type { JobRequest } from '../jobs/types'
import { compareSounds } from '../library/compare'
import { redraw } from '../library/redraw'
import { scanSource } from '../library/scan'
import { unpackArchive } from '../library/unpack'
import { importPackage } from '../vault/importPackage'
import { storeJob } from '../vault/storeJob'

const { request, config, address } = workerData as JobWorkerData
const cancelling = new AbortController()
const send = (message: JobMessage) => parentPort?.postMessage(message)
const { db, close } = connect(address, 2)

parentPort?.on('message', () => cancelling.abort(new EmporionError('cancelled', 'Cancelled.')))

const context: JobContext = {
  db,
  config,
  signal: cancelling.signal,
  report: progress => send({ type: 'progress', progress }),
  changed: what => send({ type: 'changed', what }),
}

try {
  send({ type: 'done', result: await run(request) })
}
catch (thrown) {
  if (cancelling.signal.aborted) send({ type: 'cancelled' })
  else send({ type: 'failed', message: messageOf(thrown), code: thrown instanceof EmporionError ? thrown.code : 'broken' })
}
finally {
  await close()
  parentPort?.close()
}

function run(asked: JobRequest): Promise<unknown> {
  switch (asked.kind) {
    case 'scan':
      return scanSource(asked.sourceId, context)
    case 'redraw':
      return redraw(asked, context)
    case 'compare':
      return compareSounds(context)
    case 'unpack':
      return unpackArchive(asked, context)
    case 'store':
      return storeJob(asked, context)
    case 'import':
      return importPackage(asked, context)
  }
}
