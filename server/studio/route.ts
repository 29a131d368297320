import { createError, defineEventHandler, getQuery, getRouterParam, readRawBody, type EventHandler, type H3Event } from 'h3'
import { z } from 'zod'
import { EmporionError, type ErrorCode } from '../../core/errors'
import { keepableAll } from '../../core/text'
import { hasCode, isDiskFull } from '../vault/disk'
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

/** A route: opens the studio, calls one function, and turns what goes wrong into an answer with whole sentences. */
export function route<T>(handle: (studio: Studio, event: H3Event) => Promise<T> | T): EventHandler {
  return defineEventHandler(async (event) => {
    try {
      return await handle(await useStudio(), event)
    }
    catch (thrown) {
      throw answerFor(thrown)
    }
  })
}

/** The query of a request, checked. */
export function query<S extends z.ZodType>(event: H3Event, schema: S): z.infer<S> {
  return schema.parse(keepableAll(getQuery(event)))
}

/** The JSON body of a request, checked. */
export async function body<S extends z.ZodType>(event: H3Event, schema: S): Promise<z.infer<S>> {
  const text = await readRawBody(event)
  if (text && text.length > LARGEST_BODY_BYTES) throw new EmporionError('limit', 'The request is too large.')
  return schema.parse(parseJson(text ?? ''))
}

/** A part of the path of a request, checked. */
export function param<S extends z.ZodType>(event: H3Event, name: string, schema: S): z.infer<S> {
  return schema.parse(keepableAll(getRouterParam(event, name, { decode: true })))
}

/** A number in the path. */
export const idSchema = z.coerce.number().int().min(1)

/** JSON that may hold text which no database keeps: `JSON.stringify` writes it like this. */
const UNKEPT = /\\u(0000|d[89a-f])/i

function parseJson(text: string): unknown {
  try {
    return UNKEPT.test(text) ? keepableAll(JSON.parse(text)) : JSON.parse(text)
  }
  catch {
    throw new EmporionError('invalid', 'The request is not whole JSON.')
  }
}

function answerFor(thrown: unknown): unknown {
  if (thrown instanceof EmporionError) return answer(STATUS[thrown.code], thrown.code, thrown.message)
  if (thrown instanceof z.ZodError) {
    const issue = thrown.issues[0]
    return answer(400, 'invalid', `The request was not understood: ${issue?.path.join('.') || 'value'}: ${issue?.message ?? ''}`)
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
