import { z } from 'zod'
import { receiveFile, uploadIdSchema } from '../../../library/uploads'
import { param, query, route } from '../../../studio/route'

export default route(async ({ config }, event) => {
  const { path } = query(event, z.object({ path: z.string().min(1).max(1024) }))
  await receiveFile(config.uploadsDir, param(event, 'id', uploadIdSchema), path, event.node.req)
  return { received: path }
})
