import { searchRoutes } from '../../../contract/searches'
import { saveSearch } from '../../library/savedSearches'
import { route } from '../../studio/route'

export default route(searchRoutes.save, async ({ db, events }, { body: { name, search } }) => {
  await saveSearch(db, name, search)
  events.send({ type: 'searches' })
  return { saved: true }
})
