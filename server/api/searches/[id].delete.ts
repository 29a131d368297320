import { searchRoutes } from '../../../contract/searches'
import { removeSaved } from '../../library/savedSearches'
import { route } from '../../studio/route'

export default route(searchRoutes.remove, async ({ db, events }, { params }) => {
  await removeSaved(db, params.id)
  events.send({ type: 'searches' })
  return { removed: true }
})
