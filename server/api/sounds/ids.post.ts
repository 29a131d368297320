import { z } from 'zod'
import { searchSchema } from '../../library/searchRequest'
import { body, route } from '../../studio/route'

const place = z.int().min(0)
const stretchesSchema = z.object({ search: searchSchema, stretches: z.array(z.tuple([place, place])).max(20_000) })

/** The ids of stretches of a result: what is chosen, without its rows. */
export default route(async ({ finder }, event) => {
  const { search, stretches } = await body(event, stretchesSchema)
  return { ids: await finder.ask({ type: 'ids', search, stretches }) }
})
