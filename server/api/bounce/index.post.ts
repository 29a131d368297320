import { z } from 'zod'
import { parsePattern } from '../../../core/groove/document'
import { parseKit } from '../../../core/kit/migrate'
import { bounceSpecSchema } from '../../bounce/spec'
import { folderForCopies } from '../../library/copies'
import { body, route } from '../../studio/route'

const askedSchema = z.object({
  spec: bounceSpecSchema.extend({ kits: z.array(z.unknown()).min(1).max(8), pattern: z.unknown(), byHand: z.record(z.string(), z.int().min(0).nullable()) }),
  folder: z.string().max(4096).nullable(),
})

/** Renders a pattern on a kit into files, as long work. */
export default route(async ({ db, config, jobs }, event) => {
  const { spec, folder } = await body(event, askedSchema)
  const pattern = parsePattern(spec.pattern)
  const place = folder === null ? null : await folderForCopies(db, config, folder)
  return jobs.add({ kind: 'bounce', spec: { ...spec, pattern, kits: spec.kits.map(parseKit) }, folder: place, title: `Bounce ${pattern.name}` })
})
