import { z } from 'zod'
import { addTray, trayNameSchema } from '../../library/trays'
import { body, route } from '../../studio/route'

export default route(async ({ db, events }, event) => {
  const { name } = await body(event, z.object({ name: trayNameSchema }))
  const tray = await addTray(db, name)
  events.send({ type: 'trays' })
  return tray
})
