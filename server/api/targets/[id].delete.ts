import { targetRoutes } from '../../../contract/fit'
import { deleteTarget } from '../../fit/targets'
import { route } from '../../studio/route'

export default route(targetRoutes.remove, async ({ config }, { params }) => {
  await deleteTarget(config.dataDir, params.id)
  return { deleted: true }
})
