import { Worker } from 'node:worker_threads'
import { log } from '../../base/log'
import { EmporionError } from '../../../core/errors'
import type { DatabaseAddress } from '../../db/open'
import type { FinderAnswers, FinderQuestion, FinderReply, FinderRequest, FinderWorkerData, States } from './protocol'

interface Waiting {
  readonly resolve: (answer: FinderAnswers[keyof FinderAnswers]) => void
  readonly reject: (error: Error) => void
}

/** Asks the finder's thread. A thread that has died is started anew with the next question. */
export class FinderClient {
  private worker: Worker | undefined
  private readonly waiting = new Map<number, Waiting>()
  private asked = 0
  private hasAnswered = false
  private isClosed = false

  constructor(private readonly workerFile: string, private readonly address: DatabaseAddress, private readonly cacheDir: string, private readonly states: () => States) {}

  /** True once the catalogue is there. Until then a plain list comes sooner from the database. */
  get isReady(): boolean {
    return this.hasAnswered
  }

  ask<K extends keyof FinderAnswers>(question: FinderQuestion & { readonly type: K }): Promise<FinderAnswers[K]> {
    return new Promise((resolve, reject) => {
      const number = ++this.asked
      this.waiting.set(number, { resolve: resolve as Waiting['resolve'], reject })
      const request: FinderRequest = { number, ask: { ...question, ...this.states() } }
      this.worker ??= this.start()
      this.worker.postMessage(request)
    })
  }

  /** Gets everything ready, step by step, with whatever is asked in between. */
  async warm(): Promise<void> {
    while (!this.isClosed && await this.ask({ type: 'warm' }));
  }

  async close(): Promise<void> {
    this.isClosed = true
    await this.worker?.terminate()
  }

  private start(): Worker {
    const workerData: FinderWorkerData = { address: this.address, cacheDir: this.cacheDir }
    const worker = new Worker(this.workerFile, { workerData })
    worker.on('message', (reply: FinderReply) => {
      const waiting = this.waiting.get(reply.number)
      this.waiting.delete(reply.number)
      this.hasAnswered = true
      if ('answer' in reply) waiting?.resolve(reply.answer)
      else waiting?.reject(new EmporionError(reply.code, reply.message))
    })
    worker.on('error', thrown => log.error({ err: thrown }, 'The thread that searches ended with an error'))
    worker.on('exit', () => {
      if (this.worker === worker) {
        this.worker = undefined
        this.hasAnswered = false
      }
      for (const { reject } of this.waiting.values()) reject(new EmporionError('broken', { what: this.isClosed ? 'Emporion is closing.' : 'The search was broken off.', kept: 'Nothing was changed.', next: 'Search again.' }))
      this.waiting.clear()
    })
    return worker
  }
}
