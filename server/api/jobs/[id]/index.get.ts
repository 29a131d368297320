import { z } from 'zod'
import { param, route } from '../../../studio/route'

export default route(({ jobs }, event) => jobs.get(param(event, 'id', z.uuid())))
