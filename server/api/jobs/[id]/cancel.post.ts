import { jobRoutes } from '../../../../contract/jobs'
import { route } from '../../../studio/route'

export default route(jobRoutes.cancel, async ({ jobs }, { params }) => {
  await jobs.cancel(params.id)
  return { asked: true }
})
