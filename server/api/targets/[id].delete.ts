import { targetSchema } from '../../../core/fit/target'
import { deleteTarget } from '../../fit/targets'
import { param, route } from '../../studio/route'

export default route(async ({ config }, event) => {
  await deleteTarget(config.dataDir, param(event, 'id', targetSchema.shape.id))
  return { deleted: true }
})
