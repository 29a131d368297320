import { fitRoutes } from '../../../contract/fit'
import { allowedPath, liesBelow } from '../../base/roots'
import { route } from '../../studio/route'

/** Brings a kit of another form into the vault, as long work. */
export default route(fitRoutes.importForeign, async ({ config, jobs }, { body: spec }) => {
  const path = await allowedPath(spec.path, config.roots)
  const isUpload = spec.isUpload === true && liesBelow(path, config.uploadsDir)
  return jobs.add({ kind: 'foreign', spec: { ...spec, path, isUpload } })
})
