import { fitRoutes } from '../../../../contract/fit'
import { route } from '../../../studio/route'

/** Measures a kit for a target, as long work; what comes of it is fetched by its id. */
export default route(fitRoutes.measure, async ({ jobs }, { body: { kit, target } }) => {
  return jobs.add({ kind: 'measure', kit, target })
})
