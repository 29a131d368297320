import { z } from 'zod'
import { NAME_LENGTHS } from '../../../core/nameLengths'
import { presetTypeSchema } from '../../../core/formats/package/kitFile'
import { parsePattern } from '../../../core/groove/document'
import { parseKit } from '../../../core/kit/migrate'
import { body, route } from '../../studio/route'

const storeSchema = z.object({
  kitId: z.uuid().nullable(),
  type: presetTypeSchema.default('kit'),
  kit: z.unknown(),
  name: z.string().trim().min(1, 'A preset needs a name.').max(NAME_LENGTHS.preset),
  presetId: z.string().nullable(),
  pattern: z.object({ id: z.string().min(1).max(80), document: z.unknown() }).optional(),
})

export default route(async ({ jobs }, event) => {
  const asked = await body(event, storeSchema)
  const kit = parseKit(asked.kit)
  const pattern = asked.pattern && { id: asked.pattern.id, document: parsePattern(asked.pattern.document) }
  return jobs.add({ kind: 'store', ...asked, kit, pattern, title: `Store ${asked.name}` })
})
