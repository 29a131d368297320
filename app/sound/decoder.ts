import { EmporionError } from '~~/core/errors'
import type { DecodeAnswer, DecodedSound, DecodeRequest } from './decode.worker'
import { SOUNDS_URL } from '~~/contract/soundsUrl'

/** One of them is kept free for what somebody waits for. */
const WORKERS = 3
/** So many sounds of what is open are fetched in one go: each question takes its time, and a kit may need hundreds. */
const MOST_TOGETHER = 16

/** `now`: somebody waits to hear it; `soon`: it belongs to what is open; `ahead`: it is likely to be wanted next. */
export type Urgency = 'now' | 'soon' | 'ahead'

interface Task {
  readonly request: DecodeRequest
  readonly resolve: (sound: DecodedSound) => void
  readonly reject: (error: Error) => void
  urgency: Urgency
}

let waiting: Task[] = []
const running = new Map<number, Task>()
const idle: Worker[] = []
/** How many sounds each worker still has to answer for, and whether somebody waits for them. */
const busy = new Map<Worker, { left: number, readonly isAwaited: boolean }>()
let areStarted = false
let nextId = 1

/** Fetches and decodes a sound off the page's thread, by Emporion's own readers, the same as the server's. */
export function decodeUrl(url: string, engineRate: number | null, urgency: Urgency = 'now'): Promise<DecodedSound> {
  return new Promise((resolve, reject) => {
    waiting.push({ request: { id: nextId++, url, engineRate }, resolve, reject, urgency })
    dispatch()
  })
}

/** Says that a sound which is to be decoded ahead is wanted now. */
export function hasten(url: string): void {
  for (const task of waiting) if (task.request.url === url) task.urgency = 'now'
}

/** Forgets what waits to be decoded ahead and is not among these addresses: the cursor has gone elsewhere. */
export function cancelAheadBut(wanted: ReadonlySet<string>): void {
  const [kept, dropped] = [true, false].map(keep => waiting.filter(task => (task.urgency !== 'ahead' || wanted.has(task.request.url)) === keep)) as [Task[], Task[]]
  waiting = kept
  for (const task of dropped) task.reject(new EmporionError('cancelled', 'No longer wanted.'))
}

/**
 * What is wanted now goes first, the last asked for before all; then what belongs to what is open, in its order and several in one
 * go; what is decoded ahead goes last. Only what is wanted now takes the last worker.
 */
function dispatch(): void {
  // All at once, so that nobody who waits for a sound waits for a worker to start.
  if (!areStarted) for (let i = 0; i < WORKERS; i++) idle.push(startWorker())
  areStarted = true
  const tasks = nextTasks()
  const worker = tasks.length > 0 ? idle.pop() : undefined
  if (!worker) return
  waiting = waiting.filter(task => !tasks.includes(task))
  for (const task of tasks) running.set(task.request.id, task)
  busy.set(worker, { left: tasks.length, isAwaited: tasks[0]!.urgency === 'now' })
  worker.postMessage(tasks.map(({ request }) => request))
  dispatch()
}

function nextTasks(): readonly Task[] {
  const now = waiting.findLast(({ urgency }) => urgency === 'now')
  if (now) return [now]
  const soon = waiting.filter(({ urgency }) => urgency === 'soon')
  // What is open is not held up by what somebody waits for; what is decoded ahead is.
  const isAnyFree = soon.length > 0 ? [...busy.values()].filter(({ isAwaited }) => !isAwaited).length < WORKERS - 1 : idle.length > 1
  if (!isAnyFree) return []
  const together = soon.filter(({ request }) => request.url.startsWith(`${SOUNDS_URL}/`)).slice(0, MOST_TOGETHER)
  return together.length > 0 ? together : soon.length > 0 ? soon.slice(0, 1) : waiting.slice(0, 1)
}

function startWorker(): Worker {
  const worker = new Worker(new URL('./decode.worker.ts', import.meta.url), { type: 'module' })
  worker.addEventListener('message', (event: MessageEvent<DecodeAnswer>) => {
    const answer = event.data
    const task = running.get(answer.id)
    running.delete(answer.id)
    const work = busy.get(worker)!
    work.left--
    if (work.left === 0) {
      busy.delete(worker)
      idle.push(worker)
      dispatch()
    }
    if ('sound' in answer) task?.resolve(answer.sound)
    else task?.reject(new EmporionError('unreadable', answer.error))
  })
  return worker
}

/** Where the audio of a sound is fetched from. */
export function soundUrl(hash: string): string {
  return `${SOUNDS_URL}/${hash}`
}
