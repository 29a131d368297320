import { trayRoutes } from '../../../../contract/tray'
import { changeTray } from '../../../library/trays'
import { route } from '../../../studio/route'

export default route(trayRoutes.change, async ({ db, events }, { params: { id: trayId }, body: { change, from } }) => {
  await changeTray(db, trayId, change)
  events.send({ type: 'tray', trayId, from })
  return { saved: true }
})
