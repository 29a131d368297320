import { z } from 'zod'
import { setPatternDetails } from '../../../patterns/store'
import { body, nameSchema, param, route } from '../../../studio/route'

export default route(async ({ db, events }, event) => {
  const details = await body(event, z.strictObject({ folder: z.string().trim().max(120).optional(), tags: z.array(z.string().trim().min(1).max(60)).max(30).optional(), favourite: z.boolean().optional() }).refine(details => Object.values(details).some(value => value !== undefined), 'Nothing to change was given.'))
  await setPatternDetails(db, param(event, 'id', nameSchema), details)
  events.send({ type: 'patterns' })
  return { marked: true }
})
