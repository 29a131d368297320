import { z } from 'zod'
import { addSource } from '../../../library/sources'
import { finishUpload, uploadIdSchema } from '../../../library/uploads'
import { body, param, route } from '../../../studio/route'

export default route(async ({ db, config, jobs }, event) => {
  const id = param(event, 'id', uploadIdSchema)
  const { name } = await body(event, z.object({ name: z.string().trim().min(1).max(200) }))
  const source = await addSource(db, { name, path: await finishUpload(config.uploadsDir, id, name), uploaded: true })
  return jobs.add({ kind: 'scan', sourceId: source.id, title: `Bring in ${name}` })
})
