import { sourceRoutes } from '../../../../contract/sources'
import { listUnreadable } from '../../../library/sourceLists'
import { route } from '../../../studio/route'

export default route(sourceRoutes.unreadable, ({ db }, { params, query }) => listUnreadable(db, params.id, query))
