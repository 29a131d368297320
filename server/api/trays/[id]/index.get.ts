import { readTray } from '../../../library/trays'
import { idSchema, param, route } from '../../../studio/route'

export default route(({ db }, event) => readTray(db, param(event, 'id', idSchema)))
