import { sourceRoutes } from '../../../../contract/sources'
import { listMissing } from '../../../library/sourceLists'
import { route } from '../../../studio/route'

export default route(sourceRoutes.missing, ({ db }, { params, query }) => listMissing(db, params.id, query))
