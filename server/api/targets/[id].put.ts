import { targetRoutes } from '../../../contract/fit'
import { EmporionError } from '../../../core/errors'
import { saveTarget } from '../../fit/targets'
import { route } from '../../studio/route'

/** Keeps a target of the user's own. */
export default route(targetRoutes.save, async ({ config }, { params, body: target }) => {
  if (target.id !== params.id) throw new EmporionError('invalid', 'The target and its address do not agree.')
  await saveTarget(config.dataDir, target)
  return target
})
