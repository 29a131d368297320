import { z } from 'zod'
import { listRevisions } from '../../../patterns/store'
import { param, route } from '../../../studio/route'

export default route(({ db }, event) => listRevisions(db, param(event, 'id', z.string())))
