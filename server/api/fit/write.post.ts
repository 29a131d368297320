import { z } from 'zod'
import { writeSpecSchema } from '../../fit/spec'
import { folderForCopies } from '../../library/copies'
import { body, route } from '../../studio/route'

/** Fits kits to targets and writes them, as long work: into a folder, or to be downloaded. */
export default route(async ({ db, config, jobs }, event) => {
  const { spec, folder } = await body(event, z.object({ spec: writeSpecSchema, folder: z.string().max(4096).nullable() }))
  const place = folder === null ? null : await folderForCopies(db, config, folder)
  const names = spec.targets.length === 1 ? spec.targets[0]!.name : `${spec.targets.length} targets`
  return jobs.add({ kind: 'fit', spec, folder: place, title: `Write for ${names}` })
})
