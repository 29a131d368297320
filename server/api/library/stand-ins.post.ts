import { libraryRoutes } from '../../../contract/library'
import { standInsFor } from '../../library/standIns'
import { route } from '../../studio/route'

/** What may take the place of sounds whose files are gone. */
export default route(libraryRoutes.standIns, async ({ db, config }, { body: { sounds } }) => {
  return standInsFor(db, config, sounds)
})
