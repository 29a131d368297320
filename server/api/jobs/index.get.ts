import { route } from '../../studio/route'

export default route(({ jobs }) => jobs.list())
