import { removeSaved } from '../../library/savedSearches'
import { idSchema, param, route } from '../../studio/route'

export default route(async ({ db, events }, event) => {
  await removeSaved(db, param(event, 'id', idSchema))
  events.send({ type: 'searches' })
  return { removed: true }
})
