import { EmporionError } from '~~/core/errors'
import type { DecodeAnswer, DecodedSound, DecodeRequest } from '../workers/decode.worker'

const WORKERS = 2

interface Waiting {
  readonly resolve: (sound: DecodedSound) => void
  readonly reject: (error: Error) => void
}

const waiting = new Map<number, Waiting>()
let workers: Worker[] = []
let nextId = 1

function start(): Worker[] {
  return Array.from({ length: WORKERS }, () => {
    const worker = new Worker(new URL('../workers/decode.worker.ts', import.meta.url), { type: 'module' })
    worker.addEventListener('message', (event: MessageEvent<DecodeAnswer>) => {
      const answer = event.data
      const asked = waiting.get(answer.id)
      waiting.delete(answer.id)
      if ('sound' in answer) asked?.resolve(answer.sound)
      else asked?.reject(new EmporionError('unreadable', answer.error))
    })
    return worker
  })
}

/** Fetches and decodes a sound off the page's thread, by Emporion's own readers, the same as the server's. */
export function decodeUrl(url: string, engineRate: number | null): Promise<DecodedSound> {
  if (workers.length === 0) workers = start()
  const id = nextId++
  const request: DecodeRequest = { id, url, engineRate }
  return new Promise((resolve, reject) => {
    waiting.set(id, { resolve, reject })
    workers[id % WORKERS]!.postMessage(request)
  })
}

/** Where the audio of a sound is fetched from. */
export function soundUrl(hash: string): string {
  return `/api/audio/${hash}`
}
