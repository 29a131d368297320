import { listFamilies } from '../../../library/overview'
import { idSchema, param, route } from '../../../studio/route'

const MOST_SHOWN = 500

export default route(({ db }, event) => listFamilies(db, param(event, 'id', idSchema), MOST_SHOWN))
