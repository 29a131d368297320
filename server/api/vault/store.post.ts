import { z } from 'zod'
import { NAME_LENGTHS } from '../../../core/nameLengths'
import { presetTypeSchema } from '../../../core/formats/package/kitFile'
import { patternDocumentSchema } from '../../../core/groove/document'
import { kitDocumentSchema } from '../../../core/kit/migrate'
import { HEARD } from '../../../contract/bounce'
import { body, route } from '../../studio/route'

const storeSchema = z.object({
  kitId: z.uuid().nullable(),
  type: presetTypeSchema.default('kit'),
  kit: kitDocumentSchema,
  name: z.string().trim().min(1, 'A preset needs a name.').max(NAME_LENGTHS.preset),
  presetId: z.string().nullable(),
  pattern: z.object({ id: z.string().min(1).max(80), document: patternDocumentSchema }).optional(),
  heard: z.enum(HEARD).default('as heard'),
})

export default route(async ({ jobs }, event) => {
  const asked = await body(event, storeSchema)
  return jobs.add({ kind: 'store', ...asked, title: `Store ${asked.name}` })
})
