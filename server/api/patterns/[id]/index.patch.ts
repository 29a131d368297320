import { z } from 'zod'
import { markPattern } from '../../../patterns/store'
import { body, nameSchema, param, route } from '../../../studio/route'

export default route(async ({ db, events }, event) => {
  const marks = await body(event, z.strictObject({ folder: z.string().trim().max(120).optional(), tags: z.array(z.string().trim().min(1).max(60)).max(30).optional(), favourite: z.boolean().optional() }).refine(marks => Object.values(marks).some(value => value !== undefined), 'Nothing was said of what is to change.'))
  await markPattern(db, param(event, 'id', nameSchema), marks)
  events.send({ type: 'patterns' })
  return { marked: true }
})
