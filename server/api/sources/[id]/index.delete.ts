import { z } from 'zod'
import { removeSource } from '../../../library/sources'
import { idSchema, param, query, route } from '../../../studio/route'

const howSchema = z.object({ forget: z.enum(['yes', 'no']).default('no') })

export default route(async ({ db, config, events, watch }, event) => {
  await removeSource(db, config, param(event, 'id', idSchema), query(event, howSchema).forget === 'yes')
  events.send({ type: 'library' })
  await watch.arm()
  return { removed: true }
})
