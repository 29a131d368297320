import { folderRoutes } from '../../contract/sources'
import { makeFolder } from '../library/newFolder'
import { route } from '../studio/route'

/** Makes a folder to write into. */
export default route(folderRoutes.make, async (studio, { body }) => makeFolder(body, studio))
