import { soundRoutes } from '../../../contract/library'
import { listFolders } from '../../library/folderTree'
import { route } from '../../studio/route'

/** The folders directly below a place, `3/Kicks`, or the sources, with how many sounds of a search each holds. */
export default route(soundRoutes.folders, ({ finder }, { query: { under, ...search } }) => {
  return listFolders(finder, search, under)
})
