import type { Arranging } from '~~/core/fit/arrange'
import type { FitPlan, PlanRow, Wishes } from '~~/core/fit/plan'
import type { Target } from '~~/core/fit/target'
import type { Kit } from '~~/core/kit/document'
import type { KitMeasures } from '~~/contract/fit'
import type { FitAnswer, FitRequest, FittedSound } from './fit.worker'

/** Plans wait for nothing: sounds are made by a worker of their own. */
const workers = new Map<FitRequest['type'], Worker>()
const waiting = new Map<number, { resolve: (answer: FitAnswer) => void, reject: (error: Error) => void }>()
let nextId = 1

/** Plans how a kit meets a target, off the page's thread. */
export async function planOf(kit: Kit, target: Target, measures: KitMeasures, wishes: Wishes, way: Arranging): Promise<FitPlan> {
  const answer = await ask({ id: nextId++, type: 'plan', kit, target, measures, wishes, way })
  return (answer as Extract<FitAnswer, { plan: FitPlan }>).plan
}

/** One sample of a plan before and after. */
export async function fittedSound(kit: Kit, target: Target, row: PlanRow, engineRate: number): Promise<FittedSound> {
  const answer = await ask({ id: nextId++, type: 'sound', kit, target, row, engineRate })
  return (answer as Extract<FitAnswer, { sound: FittedSound }>).sound
}

function ask(request: FitRequest): Promise<FitAnswer> {
  const worker = workers.get(request.type) ?? start()
  workers.set(request.type, worker)
  worker.postMessage(request)
  return new Promise((resolve, reject) => waiting.set(request.id, { resolve, reject }))
}

function start(): Worker {
  const started = new Worker(new URL('./fit.worker.ts', import.meta.url), { type: 'module' })
  started.addEventListener('message', ({ data }: MessageEvent<FitAnswer>) => {
    const asked = waiting.get(data.id)
    waiting.delete(data.id)
    if ('error' in data) asked?.reject(new Error(data.error))
    else asked?.resolve(data)
  })
  return started
}
