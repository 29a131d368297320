import PQueue from 'p-queue'
import { toEmporionError } from './useApi'

/** Not more than one sentence a second: a screen reader would break one off for the next. */
const sentences = new PQueue({ concurrency: 1, interval: 1000, intervalCap: 1 })

function show(options: Parameters<typeof ElMessage>[0]): void {
  void sentences.add(() => void ElMessage(options))
}

/** Shows a message in passing. */
export function say(text: string): void {
  show({ message: text, type: 'success', duration: 3500, grouping: true, placement: 'bottom', offset: 68 })
}

/** Shows what went wrong, long enough to be read. */
export function sayError(thrown: unknown): void {
  const error = toEmporionError(thrown)
  if (error.code === 'cancelled') return
  show({ message: error.message, type: 'error', duration: 12_000, showClose: true, grouping: true, placement: 'bottom', offset: 68 })
}

/** Runs something and shows what went wrong, if anything did. */
export async function saying<T>(work: () => Promise<T>): Promise<T | undefined> {
  try {
    return await work()
  }
  catch (thrown) {
    sayError(thrown)
    return undefined
  }
}
