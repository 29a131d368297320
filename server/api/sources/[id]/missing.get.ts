import { listMissing } from '../../../library/overview'
import { idSchema, param, route } from '../../../studio/route'

export default route(({ db }, event) => listMissing(db, param(event, 'id', idSchema)))
