import { foreignSpecSchema } from '../../fit/spec'
import { allowedPath, liesBelow } from '../../files/roots'
import { body, route } from '../../studio/route'

/** Brings a kit of another form into the vault, as long work. */
export default route(async ({ config, jobs }, event) => {
  const spec = await body(event, foreignSpecSchema)
  const path = await allowedPath(spec.path, config.roots)
  const isUpload = spec.isUpload === true && liesBelow(path, config.uploadsDir)
  return jobs.add({ kind: 'foreign', spec: { ...spec, path, isUpload }, title: `Read ${spec.preset ?? 'a kit'} into the vault` })
})
