import { trayRoutes } from '../../../../contract/tray'
import { removeTray } from '../../../library/trays'
import { route } from '../../../studio/route'

export default route(trayRoutes.remove, async ({ db, events }, { params }) => {
  await removeTray(db, params.id)
  events.send({ type: 'trays' })
  return { removed: true }
})
