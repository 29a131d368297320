import { removeTray } from '../../../library/trays'
import { idSchema, param, route } from '../../../studio/route'

export default route(async ({ db, events }, event) => {
  await removeTray(db, param(event, 'id', idSchema))
  events.send({ type: 'trays' })
  return { removed: true }
})
