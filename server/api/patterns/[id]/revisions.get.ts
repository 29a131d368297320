import { listRevisions } from '../../../patterns/store'
import { nameSchema, param, route } from '../../../studio/route'

export default route(({ db }, event) => listRevisions(db, param(event, 'id', nameSchema)))
