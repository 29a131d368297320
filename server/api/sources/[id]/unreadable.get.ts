import { listUnreadable } from '../../../library/sources'
import { idSchema, param, route } from '../../../studio/route'

export default route(({ db }, event) => listUnreadable(db, param(event, 'id', idSchema)))
