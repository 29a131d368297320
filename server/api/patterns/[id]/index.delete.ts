import { z } from 'zod'
import { deletePattern } from '../../../patterns/store'
import { param, route } from '../../../studio/route'

export default route(async ({ db, events }, event) => {
  await deletePattern(db, param(event, 'id', z.string()))
  events.send({ type: 'patterns' })
  return { deleted: true }
})
