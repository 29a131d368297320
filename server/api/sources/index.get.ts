import { sourceRoutes } from '../../../contract/sources'
import { listSources } from '../../library/sources'
import { route } from '../../studio/route'

export default route(sourceRoutes.list, ({ db }) => listSources(db))
