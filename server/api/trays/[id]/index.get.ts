import { trayRoutes } from '../../../../contract/tray'
import { readTray } from '../../../library/trays'
import { route } from '../../../studio/route'

export default route(trayRoutes.read, ({ db }, { params }) => readTray(db, params.id))
