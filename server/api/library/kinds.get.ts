import { libraryRoutes } from '../../../contract/library'
import { kindsByLength } from '../../library/overview'
import { route } from '../../studio/route'

export default route(libraryRoutes.kinds, ({ db }, { query }) => kindsByLength(db, query.source))
