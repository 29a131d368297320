import { z } from 'zod'
import { deleteKit } from '../../../kits/drafts'
import { param, route } from '../../../studio/route'

export default route(async ({ db, events }, event) => {
  await deleteKit(db, param(event, 'id', z.uuid()))
  events.send({ type: 'kits' })
  return { deleted: true }
})
