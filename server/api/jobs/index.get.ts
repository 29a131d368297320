import { jobRoutes } from '../../../contract/jobs'
import { route } from '../../studio/route'

export default route(jobRoutes.list, ({ jobs }) => jobs.list())
