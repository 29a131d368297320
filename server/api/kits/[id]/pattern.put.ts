import { z } from 'zod'
import { setKitPattern } from '../../../kits/drafts'
import { body, param, route } from '../../../studio/route'

export default route(async ({ db }, event) => {
  const { patternId } = await body(event, z.object({ patternId: z.string().max(80).nullable() }))
  await setKitPattern(db, param(event, 'id', z.uuid()), patternId)
  return { set: true }
})
