import { playingSoundsOf, type Kit } from '~~/core/kit/document'
import type { HitsMeasured } from '~~/core/render/measureHits'
import type { MeasureAnswer, MeasureRequest } from './measure.worker'
import { soundUrl } from './decoder'

let worker: Worker | undefined
let nextId = 1
const waiting = new Map<number, { resolve: (measured: HitsMeasured) => void, reject: (error: Error) => void }>()

/** Renders hits of a kit off the page's thread and measures them. */
export function measureKitHits(kit: Kit, notes: readonly number[]): Promise<HitsMeasured> {
  worker ??= start()
  const id = nextId++
  const urls = Object.fromEntries(playingSoundsOf(kit).map(sound => [sound.id, soundUrl(sound.id)]))
  worker.postMessage({ id, kit, notes, urls } satisfies MeasureRequest)
  return new Promise((resolve, reject) => waiting.set(id, { resolve, reject }))
}

function start(): Worker {
  const started = new Worker(new URL('./measure.worker.ts', import.meta.url), { type: 'module' })
  started.addEventListener('message', (event: MessageEvent<MeasureAnswer>) => {
    const answer = event.data
    const asked = waiting.get(answer.id)
    waiting.delete(answer.id)
    if ('measured' in answer) asked?.resolve(answer.measured)
    else asked?.reject(new Error(answer.error))
  })
  return started
}
