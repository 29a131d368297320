import { fitRoutes } from '../../../contract/fit'
import { folderForCopies } from '../../library/copies'
import { route } from '../../studio/route'

/** Fits kits to targets and writes them, as long work: into a folder, or to be downloaded. */
export default route(fitRoutes.write, async ({ db, config, jobs }, { body: { spec, folder } }) => {
  const place = folder === null ? null : await folderForCopies(db, config, folder)
  return jobs.add({ kind: 'fit', spec, folder: place })
})
