import { trayRoutes } from '../../../../contract/tray'
import { folderForCopies } from '../../../library/copies'
import { route } from '../../../studio/route'

export default route(trayRoutes.copy, async ({ db, config, jobs }, { params: { id: trayId }, body: { path } }) => {
  const folder = await folderForCopies(db, config, path)
  return jobs.add({ kind: 'copy', trayId, folder })
})
