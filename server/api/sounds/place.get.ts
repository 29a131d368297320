import { searchSchema } from '../../library/searchRequest'
import { idSchema, query, route } from '../../studio/route'

/** Where in a result a sound stands, so that the cursor stays on it while the result changes; -1 when it is not in it. */
export default route(async ({ finder }, event) => {
  const { id, ...search } = query(event, searchSchema.extend({ id: idSchema }))
  return { index: await finder.ask({ type: 'place', search, id }) }
})
