import { deletePattern } from '../../../patterns/store'
import { nameSchema, param, route } from '../../../studio/route'

export default route(async ({ db, events }, event) => {
  await deletePattern(db, param(event, 'id', nameSchema))
  events.send({ type: 'patterns' })
  return { deleted: true }
})
