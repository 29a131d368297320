import { z } from 'zod'
import { keepRevision } from '../../../patterns/store'
import { param, route } from '../../../studio/route'

export default route(async ({ db }, event) => ({ number: await keepRevision(db, param(event, 'id', z.string())) }))
