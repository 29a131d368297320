import { z } from 'zod'
import { parseKit } from '../../../core/kit/migrate'
import { createKits } from '../../kits/drafts'
import { body, route } from '../../studio/route'

const MOST = 64

/** Makes several kits at once: all of them, or none. */
export default route(async ({ db, events }, event) => {
  const { kits } = await body(event, z.object({ kits: z.array(z.unknown()).min(1).max(MOST) }))
  const created = await createKits(db, kits.map(parseKit))
  events.send({ type: 'kits' })
  return created
})
