import { z } from 'zod'
import { setTray, trayItemsSchema } from '../../../library/trays'
import { body, idSchema, param, route } from '../../../studio/route'

export default route(async ({ db, events }, event) => {
  const trayId = param(event, 'id', idSchema)
  const { items, from } = await body(event, z.object({ items: trayItemsSchema, from: z.string() }))
  await setTray(db, trayId, items)
  events.send({ type: 'tray', trayId, from })
  return { saved: true }
})
