import { searchRoutes } from '../../../contract/searches'
import { listSaved } from '../../library/savedSearches'
import { route } from '../../studio/route'

export default route(searchRoutes.list, ({ db, finder }, { query }) => listSaved(db, finder, query.middleC))
