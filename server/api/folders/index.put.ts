import { searchRoutes } from '../../../contract/searches'
import { setFavouriteFolder } from '../../library/favouriteFolders'
import { route } from '../../studio/route'

export default route(searchRoutes.setFavouriteFolder, async ({ db, events }, { body }) => {
  await setFavouriteFolder(db, body)
  events.send({ type: 'searches' })
  return { marked: true }
})
