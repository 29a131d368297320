import { z } from 'zod'
import { MOST_ALTERNATES, MOST_PADS, soundIdSchema } from '../../../core/kit/document'
import { withoutFiles } from '../../library/standIns'
import { body, route } from '../../studio/route'

/** As many as a kit can hold. */
const MOST = MOST_PADS * MOST_ALTERNATES

/** Which of some sounds have no file, neither in the library nor in the vault. */
export default route(async ({ db }, event) => {
  const { sounds } = await body(event, z.object({ sounds: z.array(soundIdSchema).max(MOST) }))
  return { missing: await withoutFiles(db, sounds) }
})
