import { soundRoutes } from '../../../contract/library'
import { searchPage } from '../../library/search'
import { route } from '../../studio/route'

export default route(soundRoutes.list, ({ db, finder }, { query: { offset, limit, ...search } }) => {
  return searchPage(db, finder, search, offset, limit)
})
