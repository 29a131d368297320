import { z } from 'zod'
import { parseKit } from '../../../core/kit/migrate'
import { createKit } from '../../kits/drafts'
import { body, route } from '../../studio/route'

export default route(async ({ db }, event) => {
  const { kit } = await body(event, z.object({ kit: z.unknown().optional() }))
  return createKit(db, kit === undefined ? undefined : parseKit(kit))
})
