import { listMissing } from '../../../library/sourceLists'
import { stretchSchema } from '../../../../contract/sources'
import { idSchema, param, query, route } from '../../../studio/route'

export default route(({ db }, event) => listMissing(db, param(event, 'id', idSchema), query(event, stretchSchema)))
