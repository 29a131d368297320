import { toEmporionError } from './useApi'

/** Says something in passing. */
export function say(text: string): void {
  ElMessage({ message: text, type: 'success', duration: 3500, grouping: true, placement: 'bottom', offset: 68 })
}

/** Says what went wrong, long enough to be read. */
export function sayError(thrown: unknown): void {
  const error = toEmporionError(thrown)
  if (error.code === 'cancelled') return
  ElMessage({ message: error.message, type: 'error', duration: 12_000, showClose: true, grouping: true, placement: 'bottom', offset: 68 })
}

/** Runs something and says what went wrong, if anything did. */
export async function saying<T>(work: () => Promise<T>): Promise<T | undefined> {
  try {
    return await work()
  }
  catch (thrown) {
    sayError(thrown)
    return undefined
  }
}
