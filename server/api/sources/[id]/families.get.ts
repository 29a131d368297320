import { sourceRoutes } from '../../../../contract/sources'
import { listFamilies } from '../../../library/sourceLists'
import { route } from '../../../studio/route'

export default route(sourceRoutes.families, ({ db }, { params, query }) => listFamilies(db, params.id, query))
