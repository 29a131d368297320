import { z } from 'zod'
import { searchPage } from '../../library/search'
import { searchSchema } from '../../library/searchRequest'
import { placeSchema, query, route } from '../../studio/route'

const windowSchema = searchSchema.extend({
  offset: placeSchema.default(0),
  limit: z.coerce.number().int().min(0).max(500).default(100),
})

export default route(({ db, finder }, event) => {
  const { offset, limit, ...search } = query(event, windowSchema)
  return searchPage(db, finder, search, offset, limit)
})
