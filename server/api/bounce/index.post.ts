import { bounceRoutes } from '../../../contract/bounce'
import { folderForCopies } from '../../library/copies'
import { route } from '../../studio/route'

/** Renders a pattern on a kit into files, as long work. */
export default route(bounceRoutes.begin, async ({ db, config, jobs }, { body: { spec, folder } }) => {
  const place = folder === null ? null : await folderForCopies(db, config, folder)
  return jobs.add({ kind: 'bounce', spec, folder: place })
})
