import { Readable } from 'node:stream'
import type { ReadableStream } from 'node:stream/web'
import type { JobView } from '../contract/jobs'
import type { StudioEvent } from '../contract/events'
import type { RunningServer } from '../tests/helpers/server'

const OVER = new Set<JobView['state']>(['done', 'failed', 'cancelled'])

/** Listens to a server as a page does. */
export interface Listening {
  /** The end of a job, as soon as it is announced; asking for it over and over takes the server's time. */
  readonly ended: (id: string) => Promise<JobView>
  readonly stop: () => void
}

export async function listen(server: RunningServer): Promise<Listening> {
  const leaving = new AbortController()
  const over = new Map<string, JobView>()
  const waiting = new Map<string, (job: JobView) => void>()
  const response = await fetch(`${server.url}/api/events`, { signal: leaving.signal })
  const take = (event: StudioEvent) => {
    if (event.type !== 'job' || !OVER.has(event.job.state)) return
    over.set(event.job.id, event.job)
    waiting.get(event.job.id)?.(event.job)
  }
  void read(response, take).catch((thrown: unknown) => {
    if (!leaving.signal.aborted) throw thrown
  })
  return {
    ended: id => new Promise((resolve) => {
      const known = over.get(id)
      if (known) resolve(known)
      else waiting.set(id, resolve)
    }),
    stop: () => leaving.abort(),
  }
}

async function read(response: Response, take: (event: StudioEvent) => void): Promise<void> {
  const decoder = new TextDecoder()
  let text = ''
  for await (const chunk of Readable.fromWeb(response.body! as ReadableStream)) {
    text += decoder.decode(chunk as Uint8Array, { stream: true })
    const lines = text.split('\n')
    text = lines.pop()!
    for (const line of lines) if (line.startsWith('data: {')) take(JSON.parse(line.slice('data: '.length)) as StudioEvent)
  }
}
