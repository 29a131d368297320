import { EmporionError, type ErrorCode } from '~~/core/errors'
import { FetchError } from 'ofetch'
import { filledPath, type AnswerOf, type Endpoint, type Given, type Reads, type Placed, type Sent } from '~~/contract/endpoint'

interface Failure {
  readonly message?: string
  readonly data?: { readonly code?: ErrorCode }
}

/** What may be given beside what the endpoint reads. */
interface Beside {
  readonly signal?: AbortSignal
}

/** The same, whatever the endpoint is. */
interface Asking extends Beside, Placed {
  readonly body?: Blob | Record<string, unknown>
}

type Options<R extends Reads> = Record<never, never> extends Given<R> ? [given?: Given<R> & Beside] : [given: Given<R> & Beside]

/** Asks the server; what goes wrong comes back as an error with whole sentences. */
export async function api<R extends Reads, Answer>(endpoint: Endpoint<R, Answer>, ...[given]: Answer extends Sent ? [never] : Options<R>): Promise<AnswerOf<Answer>> {
  const asked: Asking = given ?? {}
  try {
    return await $fetch<AnswerOf<Answer>>(filledPath(endpoint.path, asked), {
      retry: 0, method: endpoint.method, signal: asked.signal, body: asked.body, ...asked.body instanceof Blob ? { headers: { 'Content-Type': 'application/octet-stream' } } : {},
    })
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
