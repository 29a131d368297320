import { z } from 'zod'
import { bounceSpecSchema } from '../../../contract/bounce'
import { folderForCopies } from '../../library/copies'
import { body, route } from '../../studio/route'

const askedSchema = z.object({ spec: bounceSpecSchema, folder: z.string().max(4096).nullable() })

/** Renders a pattern on a kit into files, as long work. */
export default route(async ({ db, config, jobs }, event) => {
  const { spec, folder } = await body(event, askedSchema)
  const place = folder === null ? null : await folderForCopies(db, config, folder)
  return jobs.add({ kind: 'bounce', spec, folder: place, title: `Bounce ${spec.pattern.name}` })
})
