import { readdir } from 'node:fs/promises'
import { join } from 'node:path'
import { z } from 'zod'
import { finishUpload, uploadIdSchema } from '../../library/uploads'
import { body, route } from '../../studio/route'

/** Ends an upload of a kit in another form: gives the path of its only file, or of its folder. */
export default route(async ({ config }, event) => {
  const { id, name } = await body(event, z.object({ id: uploadIdSchema, name: z.string().trim().min(1).max(200) }))
  const folder = await finishUpload(config.uploadsDir, id, name)
  const [only, ...others] = await readdir(folder)
  return { path: only !== undefined && others.length === 0 ? join(folder, only) : folder }
})
