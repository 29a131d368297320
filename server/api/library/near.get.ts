import { libraryRoutes } from '../../../contract/library'
import { listNear } from '../../library/near'
import { route } from '../../studio/route'

export default route(libraryRoutes.near, ({ db }, { query: { limit, offset, strokes } }) => {
  return listNear(db, limit, offset, strokes)
})
