import { listFlagged } from '../../../library/overview'
import { idSchema, param, route } from '../../../studio/route'

export default route(({ db }, event) => listFlagged(db, param(event, 'id', idSchema)))
