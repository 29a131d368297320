import { z } from 'zod'
import { addToTray } from '../../../library/trays'
import { trayHashesSchema } from '../../../../contract/tray'
import { body, idSchema, param, route } from '../../../studio/route'

export default route(async ({ db, events }, event) => {
  const trayId = param(event, 'id', idSchema)
  const { hashes, from } = await body(event, z.object({ hashes: trayHashesSchema, from: z.string() }))
  await addToTray(db, trayId, hashes)
  events.send({ type: 'tray', trayId, from })
  return { saved: true }
})
