import { listFamilies } from '../../../library/sourceLists'
import { stretchSchema } from '../../../../contract/sources'
import { idSchema, param, query, route } from '../../../studio/route'

export default route(({ db }, event) => listFamilies(db, param(event, 'id', idSchema), query(event, stretchSchema)))
