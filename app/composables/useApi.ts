import { EmporionError, type ErrorCode } from '~~/core/errors'
import { FetchError } from 'ofetch'

interface Failure {
  readonly message?: string
  readonly data?: { readonly code?: ErrorCode }
}

/** Asks the server; what goes wrong comes back as an error with whole sentences. */
export async function api<T>(path: string, options: Parameters<typeof $fetch>[1] = {}): Promise<T> {
  try {
    return await $fetch<T>(path, { retry: 0, ...options })
  }
  catch (thrown) {
    throw toEmporionError(thrown)
  }
}

/** Makes an error for people out of a failed request. */
export function toEmporionError(thrown: unknown): EmporionError {
  if (thrown instanceof EmporionError) return thrown
  if (thrown instanceof FetchError) {
    const failure = thrown.data as Failure | undefined
    if (failure?.message) return new EmporionError(failure.data?.code ?? 'broken', failure.message)
    return new EmporionError('broken', { what: 'Emporion\'s server does not answer.', kept: 'What was saved is safe on disk.', next: 'Start it again with ./emporion; this page goes on by itself.' })
  }
  return new EmporionError('broken', thrown instanceof Error ? thrown.message : String(thrown))
}
