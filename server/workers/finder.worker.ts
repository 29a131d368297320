import { parentPort, workerData } from 'node:worker_threads'
import { EmporionError, messageOf } from '../../core/errors'
import { connect } from '../db/open'
import { Finder } from '../library/finder/finder'
import type { FinderReply, FinderRequest, FinderWorkerData } from '../library/finder/protocol'

const { address, cacheDir } = workerData as FinderWorkerData
const { db } = connect(address, 1)
const finder = new Finder(db, cacheDir)
const send = (reply: FinderReply) => parentPort?.postMessage(reply)

parentPort?.on('message', async ({ number, ask }: FinderRequest) => {
  try {
    send({ number, answer: await finder.answer(ask) })
  }
  catch (thrown) {
    send({ number, code: thrown instanceof EmporionError ? thrown.code : 'broken', message: messageOf(thrown) })
  }
})
