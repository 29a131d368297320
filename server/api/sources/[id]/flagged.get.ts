import { sourceRoutes } from '../../../../contract/sources'
import { listFlagged } from '../../../library/sourceLists'
import { route } from '../../../studio/route'

export default route(sourceRoutes.flagged, ({ db }, { params, query }) => listFlagged(db, params.id, query))
