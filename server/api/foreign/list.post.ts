import { fitRoutes } from '../../../contract/fit'
import { listForeign } from '../../fit/foreign'
import { allowedPath } from '../../base/roots'
import { route } from '../../studio/route'

/** What kits a file or folder holds. */
export default route(fitRoutes.listForeign, async ({ config }, { body: { path } }) => {
  const real = await allowedPath(path, config.roots)
  return { path: real, ...await listForeign(real, config.roots) }
})
