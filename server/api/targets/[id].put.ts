import { EmporionError } from '../../../core/errors'
import { targetSchema } from '../../../core/fit/target'
import { saveTarget } from '../../fit/targets'
import { body, param, route } from '../../studio/route'

/** Keeps a target of the user's own. */
export default route(async ({ config }, event) => {
  const target = await body(event, targetSchema)
  if (target.id !== param(event, 'id', targetSchema.shape.id)) throw new EmporionError('invalid', 'The target and its address do not agree.')
  await saveTarget(config.dataDir, target)
  return target
})
