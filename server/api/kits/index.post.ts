import { z } from 'zod'
import { parseKit } from '../../../core/kit/migrate'
import { createKit } from '../../kits/drafts'
import { body, route } from '../../studio/route'

export default route(async ({ db, events }, event) => {
  const { kit } = await body(event, z.object({ kit: z.unknown().optional() }))
  const created = await createKit(db, kit === undefined ? undefined : parseKit(kit))
  events.send({ type: 'kits' })
  return created
})
