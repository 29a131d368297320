import { z } from 'zod'
import { kindsByLength } from '../../library/overview'
import { idSchema, query, route } from '../../studio/route'

export default route(({ db }, event) => kindsByLength(db, query(event, z.object({ source: idSchema.optional() })).source))
