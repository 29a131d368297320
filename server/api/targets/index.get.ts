import { targetRoutes } from '../../../contract/fit'
import { listTargets } from '../../fit/targets'
import { route } from '../../studio/route'

export default route(targetRoutes.list, ({ config }) => listTargets(config.dataDir))
