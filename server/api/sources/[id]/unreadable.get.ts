import { listUnreadable } from '../../../library/sourceLists'
import { stretchSchema } from '../../../../contract/sources'
import { idSchema, param, query, route } from '../../../studio/route'

export default route(({ db }, event) => listUnreadable(db, param(event, 'id', idSchema), query(event, stretchSchema)))
