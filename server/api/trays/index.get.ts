import { trayRoutes } from '../../../contract/tray'
import { listTrays } from '../../library/trays'
import { route } from '../../studio/route'

export default route(trayRoutes.list, ({ db }) => listTrays(db))
