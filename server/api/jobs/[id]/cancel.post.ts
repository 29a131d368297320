import { z } from 'zod'
import { param, route } from '../../../studio/route'

export default route(async ({ jobs }, event) => {
  await jobs.cancel(param(event, 'id', z.uuid()))
  return { asked: true }
})
