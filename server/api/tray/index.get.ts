import { readTray } from '../../library/tray'
import { route } from '../../studio/route'

export default route(({ db }) => readTray(db))
