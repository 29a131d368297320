import { libraryRoutes } from '../../../contract/library'
import { tagsInUse } from '../../library/marks'
import { route } from '../../studio/route'

export default route(libraryRoutes.tags, ({ db }) => tagsInUse(db))
