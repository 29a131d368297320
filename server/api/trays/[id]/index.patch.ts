import { z } from 'zod'
import { renameTray, trayNameSchema } from '../../../library/trays'
import { body, idSchema, param, route } from '../../../studio/route'

export default route(async ({ db, events }, event) => {
  const { name } = await body(event, z.object({ name: trayNameSchema }))
  await renameTray(db, param(event, 'id', idSchema), name)
  events.send({ type: 'trays' })
  return { saved: true }
})
