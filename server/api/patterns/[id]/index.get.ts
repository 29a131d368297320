import { z } from 'zod'
import { readPattern } from '../../../patterns/store'
import { param, route } from '../../../studio/route'

export default route(({ db }, event) => readPattern(db, param(event, 'id', z.string())))
