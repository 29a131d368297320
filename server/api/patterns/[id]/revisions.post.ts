import { keepRevision } from '../../../patterns/store'
import { nameSchema, param, route } from '../../../studio/route'

export default route(async ({ db }, event) => ({ number: await keepRevision(db, param(event, 'id', nameSchema)) }))
