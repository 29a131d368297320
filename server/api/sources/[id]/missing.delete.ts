import { forgetMissing } from '../../../library/sourceLists'
import { idSchema, param, route } from '../../../studio/route'

export default route(async ({ db, events }, event) => {
  const forgotten = await forgetMissing(db, param(event, 'id', idSchema))
  events.send({ type: 'library' })
  return { forgotten }
})
