import type { z } from 'zod'

export type Method = 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE'

/** Names of the parameters in a path: `'id'` of `/api/kits/[id]`. */
type ParamNames<Path extends string> = Path extends `${string}[${infer Name}]${infer Rest}` ? Name | ParamNames<Rest> : never

/** What an endpoint reads of a request, each part by its schema. */
export interface Reads {
  readonly params?: Readonly<Record<string, z.ZodType>>
  readonly query?: z.ZodType
  /** `bytes`: the body is a file, and is read by the endpoint itself. */
  readonly body?: z.ZodType | 'bytes'
}

/** The same for a path: a parameter that it names has a schema. */
type ReadsOf<Path extends string> = Omit<Reads, 'params'> & ([ParamNames<Path>] extends [never] ? { readonly params?: undefined } : { readonly params: Readonly<Record<ParamNames<Path>, z.ZodType>> })

/** An answer that is a file, a stream or a text, and no JSON: the page has it by its address. */
export interface Sent {
  readonly sent: 'as it is'
}

/** An answer in JSON that the server does not hold: it lies in a file, and is sent from there. */
export interface Streamed<Answer> {
  readonly streams: Answer
}

/** What comes of asking. */
export type AnswerOf<Answer> = Answer extends Streamed<infer Inner> ? Inner : Answer

/** Something that the server is asked: where, what it reads, and what it answers. Both sides take their types from it. */
export interface Endpoint<R extends Reads = Reads, Answer = unknown> {
  readonly method: Method
  /** Parameters in brackets: `/api/kits/[id]`. */
  readonly path: string
  /** What it is for, in one sentence. */
  readonly does: string
  readonly reads: R
  /** Known to the compiler alone. */
  readonly answer?: Answer
}

/** As it may be given: nothing of it is changed. */
type Unchanged<T> = T extends Blob ? T : T extends readonly unknown[] ? { readonly [K in keyof T]: Unchanged<T[K]> } : T extends object ? { readonly [K in keyof T]: Unchanged<T[K]> } : T

type Spread<T> = { [K in keyof T]: T[K] }
type Optional<Key extends string, T> = Record<never, unknown> extends T ? Readonly<Partial<Record<Key, T>>> : Readonly<Record<Key, T>>

/** What whoever asks gives along. */
export type Given<R extends Reads> = Spread<
  & (R['params'] extends Record<string, z.ZodType> ? { readonly params: { readonly [K in keyof R['params']]: z.input<R['params'][K]> } } : unknown)
  & (R['query'] extends z.ZodType ? Optional<'query', Unchanged<z.input<R['query']>>> : unknown)
  & (R['body'] extends 'bytes' ? { readonly body: Blob } : R['body'] extends z.ZodType ? Optional<'body', Unchanged<z.input<R['body']>>> : unknown)
>

/** What the server has of a request once it is checked. */
export interface Asked<R extends Reads> {
  readonly params: R['params'] extends Record<string, z.ZodType> ? { readonly [K in keyof R['params']]: z.output<R['params'][K]> } : undefined
  readonly query: R['query'] extends z.ZodType ? z.output<R['query']> : undefined
  readonly body: R['body'] extends z.ZodType ? z.output<R['body']> : undefined
}

/** Names what an endpoint answers with. */
interface Answering<R extends Reads> {
  readonly answers: <Answer>() => Endpoint<R, Answer>
  /** Answers with JSON from a file. */
  readonly streams: <Answer>() => Endpoint<R, Streamed<Answer>>
  /** Answers with a file, a stream or a text. */
  readonly sends: () => Endpoint<R, Sent>
}

type Reading<Path extends string, R> = [ParamNames<Path>] extends [never] ? [reads?: R] : [reads: R]

const declaring = (method: Method) => function declare<const Path extends string, R extends ReadsOf<Path> = Record<never, never> & ReadsOf<Path>>(path: Path, does: string, ...[reads]: Reading<Path, R>): Answering<R & Reads> {
  const endpoint = { method, path, does, reads: (reads ?? {}) as R & Reads }
  return { answers: () => endpoint, streams: () => endpoint, sends: () => endpoint }
}

export const get = declaring('GET')
export const post = declaring('POST')
export const put = declaring('PUT')
export const patch = declaring('PATCH')
export const remove = declaring('DELETE')

/** What an address is made of, whatever the endpoint is. */
export interface Placed {
  readonly params?: Readonly<Record<string, unknown>>
  readonly query?: Readonly<Record<string, unknown>>
}

/**
 * The address of an endpoint, for a link, a player or a request.
 *
 * @throws RangeError where a parameter of its path is not given
 */
export function addressOf<R extends Reads>(endpoint: Endpoint<R>, given: Omit<Given<R>, 'body'>): string {
  return filledPath(endpoint.path, given)
}

/** The same for whoever knows no more of the endpoint than its path. @throws RangeError */
export function filledPath(path: string, { params = {}, query = {} }: Placed): string {
  const filled = path.replace(/\[(\w+)\]/g, (_, name: string) => {
    if (params[name] === undefined) throw new RangeError(`${path} needs ${name}.`)
    return encodeURIComponent(String(params[name]))
  })
  const asked = Object.entries(query).filter(([, value]) => value !== undefined).map(([key, value]) => `${encodeURIComponent(key)}=${encodeURIComponent(String(value))}`)
  return asked.length > 0 ? `${filled}?${asked.join('&')}` : filled
}
