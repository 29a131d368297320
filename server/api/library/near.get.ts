import { z } from 'zod'
import { listNear } from '../../library/near'
import { placeSchema, query, route } from '../../studio/route'

const windowSchema = z.object({
  limit: z.coerce.number().int().min(1).max(100).default(50),
  offset: placeSchema.default(0),
  /** Whether groups are shown that are nothing but strokes of one family. */
  strokes: z.enum(['true', 'false']).default('false'),
})

export default route(({ db }, event) => {
  const { limit, offset, strokes } = query(event, windowSchema)
  return listNear(db, limit, offset, strokes === 'true')
})
