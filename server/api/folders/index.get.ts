import { searchRoutes } from '../../../contract/searches'
import { listFavouriteFolders } from '../../library/favouriteFolders'
import { route } from '../../studio/route'

/** The folders that are marked as favourites. */
export default route(searchRoutes.favouriteFolders, ({ db }) => listFavouriteFolders(db))
