import { listTargets } from '../../fit/targets'
import { route } from '../../studio/route'

export default route(({ config }) => listTargets(config.dataDir))
