import { saveSearch, saveSearchSchema } from '../../library/savedSearches'
import { body, route } from '../../studio/route'

export default route(async ({ db, events }, event) => {
  const { name, search } = await body(event, saveSearchSchema)
  await saveSearch(db, name, search)
  events.send({ type: 'searches' })
  return { saved: true }
})
