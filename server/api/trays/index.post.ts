import { trayRoutes } from '../../../contract/tray'
import { addTray } from '../../library/trays'
import { route } from '../../studio/route'

export default route(trayRoutes.add, async ({ db, events }, { body: { name } }) => {
  const tray = await addTray(db, name)
  events.send({ type: 'trays' })
  return tray
})
