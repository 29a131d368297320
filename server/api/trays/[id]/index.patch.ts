import { trayRoutes } from '../../../../contract/tray'
import { renameTray } from '../../../library/trays'
import { route } from '../../../studio/route'

export default route(trayRoutes.rename, async ({ db, events }, { params, body: { name } }) => {
  await renameTray(db, params.id, name)
  events.send({ type: 'trays' })
  return { saved: true }
})
