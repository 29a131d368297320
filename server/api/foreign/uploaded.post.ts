import { fitRoutes } from '../../../contract/fit'
import { readdir } from 'node:fs/promises'
import { join } from 'node:path'
import { finishUpload } from '../../library/uploads'
import { route } from '../../studio/route'

/** Ends an upload of a kit in another form: gives the path of its only file, or of its folder. */
export default route(fitRoutes.uploadedForeign, async ({ config }, { body: { id, name } }) => {
  const folder = await finishUpload(config.uploadsDir, id, name)
  const [only, ...others] = await readdir(folder)
  return { path: only !== undefined && others.length === 0 ? join(folder, only) : folder }
})
