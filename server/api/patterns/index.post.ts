import { z } from 'zod'
import { parsePattern } from '../../../core/groove/document'
import { createPattern } from '../../patterns/store'
import { body, route } from '../../studio/route'

export default route(async ({ db, events }, event) => {
  const { pattern, ...details } = await body(event, z.object({ pattern: z.unknown().optional(), folder: z.string().trim().max(120).optional(), tags: z.array(z.string().trim().min(1).max(60)).max(30).optional() }))
  const created = await createPattern(db, pattern === undefined ? undefined : parsePattern(pattern), details)
  events.send({ type: 'patterns' })
  return created
})
