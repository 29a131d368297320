import { randomUUID } from 'node:crypto'
import { createError, defineEventHandler, getQuery, getRouterParam, setResponseHeader, type EventHandler, type H3Event } from 'h3'
import { z } from 'zod'
import { log } from '../base/log'
import type { Asked, Endpoint, Reads, Sent, Streamed } from '../../contract/endpoint'
import { EmporionError, firstIssueOf, type ErrorCode } from '../../core/errors'
import { keepableAll } from '../../core/text'
import { hasCode, isDiskFull } from '../base/disk'
import { useStudio, type Studio } from './studio'

const STATUS: Readonly<Record<ErrorCode, number>> = {
  'unreadable': 422,
  'unsupported': 422,
  'invalid': 400,
  'limit': 413,
  'not-found': 404,
  'exists': 409,
  'conflict': 409,
  'outside': 403,
  'refused': 403,
  'disk-full': 507,
  'cancelled': 409,
  'broken': 500,
}

const LARGEST_BODY_BYTES = 32_000_000
/** A question that took longer than this is noted. */
const SLOW_MS = 1000

/** A route with what it answers to. */
export type Route = EventHandler & { readonly endpoint: Endpoint }

/** What a route may give back: its answer, or nothing that is looked at where it has sent a file. */
type Answered<Answer> = Answer extends Sent | Streamed<unknown> ? unknown : Answer

/** A route: opens the studio, checks the request, calls one function, and turns what goes wrong into an answer with whole sentences. */
export function route<R extends Reads, Answer>(endpoint: Endpoint<R, Answer>, handle: (studio: Studio, asked: Asked<R>, event: H3Event) => Promise<Answered<Answer>> | Answered<Answer>): Route {
  return Object.assign(answering(async (studio, event) => handle(studio, await read(event, endpoint), event), endpoint.path), { endpoint })
}

/** Answers to everything that no endpoint is for. */
export function answering(handle: (studio: Studio, event: H3Event) => unknown, path = 'none'): EventHandler {
  return defineEventHandler(async (event) => {
    const request = randomUUID()
    setResponseHeader(event, 'X-Request-Id', request)
    const began = performance.now()
    const noted = () => ({ request, method: event.method, path, ms: Math.round(performance.now() - began) })
    try {
      const answer = await handle(await useStudio(), event)
      if (event.method !== 'GET' || performance.now() - began > SLOW_MS) log.info(noted(), 'Answered')
      return answer
    }
    catch (thrown) {
      if (thrown instanceof EmporionError || thrown instanceof z.ZodError) log.info({ ...noted(), code: thrown instanceof EmporionError ? thrown.code : 'invalid', err: thrown.message }, 'Refused')
      else log.error({ ...noted(), err: thrown }, 'A request failed')
      throw answerFor(thrown)
    }
  })
}

/** What a request asks, checked. */
async function read<R extends Reads>(event: H3Event, { reads }: Endpoint<R>): Promise<Asked<R>> {
  const { params, query, body } = reads
  const asked = {
    params: params && Object.fromEntries(Object.entries(params).map(([name, schema]) => [name, schema.parse(keepableAll(getRouterParam(event, name, { decode: true })))])),
    query: query?.parse(keepableAll(getQuery(event))),
    body: body === undefined || body === 'bytes' ? undefined : body.parse(parseJson((await bodyBytes(event, LARGEST_BODY_BYTES)).toString('utf8'))),
  }
  // Each part is what its schema made of it.
  return asked as Asked<R>
}

/**
 * The body of a request as it is. It is held to its limit while it comes: what says or turns out to be longer is not read on.
 *
 * @throws EmporionError `limit`
 */
export async function bodyBytes(event: H3Event, most: number): Promise<Buffer> {
  const { req } = event.node
  const refuse = () => {
    // Whatever still comes on this connection is of no interest.
    setResponseHeader(event, 'Connection', 'close')
    return new EmporionError('limit', { what: `The request has more than ${most / 1e6} MB.`, kept: 'Nothing was changed.' })
  }
  if (Number(req.headers['content-length'] ?? 0) > most) throw refuse()
  const chunks: Buffer[] = []
  let bytes = 0
  for await (const chunk of req as AsyncIterable<Buffer>) {
    bytes += chunk.length
    if (bytes > most) throw refuse()
    chunks.push(chunk)
  }
  return Buffer.concat(chunks)
}

/** JSON that may hold text which no database keeps: `JSON.stringify` writes it like this. */
const UNKEPT = /\\u(0000|d[89a-f])/i

function parseJson(text: string): unknown {
  try {
    return UNKEPT.test(text) ? keepableAll(JSON.parse(text)) : JSON.parse(text)
  }
  catch {
    throw new EmporionError('invalid', 'The request is not valid JSON.')
  }
}

function answerFor(thrown: unknown): unknown {
  if (thrown instanceof EmporionError) return answer(STATUS[thrown.code], thrown.code, thrown.message)
  if (thrown instanceof z.ZodError) {
    return answer(400, 'invalid', `The request was not understood: ${firstIssueOf(thrown, 'value')}.`)
  }
  if (isDiskFull(thrown)) return answer(507, 'disk-full', 'The disk is full. What was stored before is unharmed. Free some space and do it again.')
  if (isDatabaseAway(thrown)) return answer(503, 'broken', 'The database has stopped, and is being opened again. What was confirmed is kept. Try again in a few seconds; where the disk is full, free some space first.')
  return thrown
}

/** What `pg` says of a connection that ended before it was closed. */
const LOST_CONNECTION: ReadonlySet<string> = new Set(['Connection terminated unexpectedly', 'Client has encountered a connection error and is not queryable'])

/** True where the database did not answer at all: its thread has ended, and its socket is gone. */
function isDatabaseAway(thrown: unknown): boolean {
  if (!(thrown instanceof Error)) return false
  const isUnanswered = hasCode(thrown, 'ECONNREFUSED', 'ECONNRESET', 'ENOENT') && 'syscall' in thrown && thrown.syscall === 'connect'
  return isUnanswered || LOST_CONNECTION.has(thrown.message) || isDatabaseAway(thrown.cause)
}

function answer(statusCode: number, code: ErrorCode, message: string) {
  return createError({ statusCode, message, data: { code } })
}
