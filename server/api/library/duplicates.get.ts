import { libraryRoutes } from '../../../contract/library'
import { findDuplicates } from '../../library/duplicates'
import { route } from '../../studio/route'

export default route(libraryRoutes.duplicates, ({ db, config }, { query }) => findDuplicates(db, config, query))
