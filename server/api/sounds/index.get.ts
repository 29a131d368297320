import { z } from 'zod'
import { searchSchema, soundRows } from '../../library/search'
import { query, route } from '../../studio/route'

const windowSchema = searchSchema.extend({
  offset: z.coerce.number().int().min(0).default(0),
  limit: z.coerce.number().int().min(0).max(500).default(100),
})

export default route(async ({ db, results }, event) => {
  const { offset, limit, ...search } = query(event, windowSchema)
  const ids = await results.ids(search)
  return { total: ids.length, rows: await soundRows(db, ids.subarray(offset, offset + limit)) }
})
