import { folderRoutes } from '../../contract/sources'
import { browse } from '../library/browse'
import { route } from '../studio/route'

export default route(folderRoutes.browse, ({ config }, { query }) => browse(query.path, config.roots))
