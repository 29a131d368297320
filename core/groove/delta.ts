import { z } from 'zod'
import { EmporionError } from '../errors'
import { parsePattern, type Part, type Pattern } from './document'

/** What of a pattern is another than in an earlier state: all but its parts, their order, and those that changed. */
export interface PatternDelta {
  readonly pattern: Omit<Pattern, 'parts'>
  readonly order: readonly string[]
  readonly parts: readonly Part[]
}

/** A delta as it comes in: whether it makes a whole pattern is seen when it is applied. */
export const patternDeltaSchema = z.object({
  pattern: z.record(z.string(), z.unknown()),
  order: z.array(z.string()),
  parts: z.array(z.looseObject({ id: z.string() })),
})

/** What leads from one state to another. Parts that are the same object are taken to be the same. */
export function patternDelta(before: Pattern, after: Pattern): PatternDelta {
  const { parts, ...pattern } = after
  const known = new Set(before.parts)
  return { pattern, order: parts.map(part => part.id), parts: parts.filter(part => !known.has(part)) }
}

/** The state that a delta leads to. Parts that did not change stay the same objects. */
export function applyPatternDelta(before: Pattern, { pattern, order, parts }: PatternDelta): Pattern {
  const byId = new Map([...before.parts, ...parts].map(part => [part.id, part]))
  return { ...pattern, parts: order.flatMap(id => byId.get(id) ?? []) }
}

/**
 * The same for a delta that came from elsewhere.
 *
 * @throws EmporionError `invalid` when a part is missing or what comes of it is no whole pattern
 */
export function parsePatternDelta(before: Pattern, { pattern, order, parts }: z.infer<typeof patternDeltaSchema>): Pattern {
  const byId = new Map<string, unknown>([...before.parts, ...parts].map(part => [part.id, part]))
  const missing = order.find(id => !byId.has(id))
  if (missing !== undefined) throw new EmporionError('invalid', { what: `The edit speaks of a part "${missing}" that the pattern does not have.`, kept: 'Nothing was changed.' })
  return parsePattern({ ...pattern, parts: order.map(id => byId.get(id)) })
}
