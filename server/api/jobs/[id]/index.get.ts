import { jobRoutes } from '../../../../contract/jobs'
import { route } from '../../../studio/route'

export default route(jobRoutes.read, ({ jobs }, { params }) => jobs.get(params.id))
