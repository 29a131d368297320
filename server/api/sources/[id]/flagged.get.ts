import { listFlagged, stretchSchema } from '../../../library/sourceLists'
import { idSchema, param, query, route } from '../../../studio/route'

export default route(({ db }, event) => listFlagged(db, param(event, 'id', idSchema), query(event, stretchSchema)))
