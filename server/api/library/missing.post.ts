import { libraryRoutes } from '../../../contract/library'
import { containersOf, notThere, withoutFiles } from '../../library/standIns'
import { route } from '../../studio/route'

/** Which of some sounds have no file, neither in the library nor in the vault, and in what containers the others are: as those were last looked through, or as the disk has it now. */
export default route(libraryRoutes.missing, async ({ db, config }, { body: asked }) => {
  if ('onDisk' in asked) return { missing: await notThere(db, config, asked.sounds), containers: {} }
  return { missing: await withoutFiles(db, asked.sounds), containers: await containersOf(db, asked.sounds) }
})
