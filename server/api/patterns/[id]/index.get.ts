import { readPattern } from '../../../patterns/store'
import { nameSchema, param, route } from '../../../studio/route'

export default route(({ db }, event) => readPattern(db, param(event, 'id', nameSchema)))
