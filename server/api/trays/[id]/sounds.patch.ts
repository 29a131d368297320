import { z } from 'zod'
import { changeTray } from '../../../library/trays'
import { trayChangeSchema } from '../../../../contract/tray'
import { body, idSchema, param, route } from '../../../studio/route'

export default route(async ({ db, events }, event) => {
  const trayId = param(event, 'id', idSchema)
  const { change, from } = await body(event, z.object({ change: trayChangeSchema, from: z.string() }))
  await changeTray(db, trayId, change)
  events.send({ type: 'tray', trayId, from })
  return { saved: true }
})
