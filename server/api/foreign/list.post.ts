import { z } from 'zod'
import { listForeign } from '../../fit/foreign'
import { allowedPath } from '../../files/roots'
import { body, route } from '../../studio/route'

/** What kits a file or folder holds. */
export default route(async ({ config }, event) => {
  const { path } = await body(event, z.object({ path: z.string().trim().min(1).max(4096) }))
  const real = await allowedPath(path, config.roots)
  return { path: real, ...await listForeign(real, config.roots) }
})
