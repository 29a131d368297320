import { z } from 'zod'
import { markPattern } from '../../../patterns/store'
import { body, param, route } from '../../../studio/route'

export default route(async ({ db, events }, event) => {
  const marks = await body(event, z.strictObject({ folder: z.string().trim().max(120).optional(), tags: z.array(z.string().trim().min(1).max(60)).max(30).optional(), favourite: z.boolean().optional() }))
  await markPattern(db, param(event, 'id', z.string()), marks)
  events.send({ type: 'patterns' })
  return { marked: true }
})
