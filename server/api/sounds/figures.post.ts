import { z } from 'zod'
import { soundIdSchema } from '../../../core/kit/document'
import { soundTimes } from '../../library/times'
import { body, route } from '../../studio/route'

const MOST = 2048

/** When several sounds begin, end and are hit, and how loud they are. Those that the library does not know are left out. */
export default route(async ({ db }, event) => {
  const { sounds } = await body(event, z.object({ sounds: z.array(soundIdSchema).max(MOST) }))
  return soundTimes(db, sounds)
})
