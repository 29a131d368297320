import { removeSource } from '../../../library/sources'
import { idSchema, param, route } from '../../../studio/route'

export default route(async ({ db, config, events }, event) => {
  await removeSource(db, config, param(event, 'id', idSchema))
  events.send({ type: 'library' })
  return { removed: true }
})
