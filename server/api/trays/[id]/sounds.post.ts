import { trayRoutes } from '../../../../contract/tray'
import { addToTray } from '../../../library/trays'
import { route } from '../../../studio/route'

export default route(trayRoutes.addSounds, async ({ db, events }, { params: { id: trayId }, body: { hashes, from } }) => {
  await addToTray(db, trayId, hashes)
  events.send({ type: 'tray', trayId, from })
  return { saved: true }
})
