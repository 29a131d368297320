import { z } from 'zod'
import { presetTypeSchema } from '../../../core/formats/package/kitFile'
import { parseKit } from '../../../core/kit/migrate'
import { body, route } from '../../studio/route'

const storeSchema = z.object({
  kitId: z.uuid().nullable(),
  type: presetTypeSchema.default('kit'),
  kit: z.unknown(),
  name: z.string().trim().min(1, 'A preset needs a name.').max(120),
  presetId: z.string().nullable(),
})

export default route(async ({ jobs }, event) => {
  const asked = await body(event, storeSchema)
  const kit = parseKit(asked.kit)
  return jobs.add({ kind: 'store', ...asked, kit, title: `Store ${asked.name}` })
})
