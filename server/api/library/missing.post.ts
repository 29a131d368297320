import { z } from 'zod'
import { MOST_LAYERS, MOST_PADS, soundIdSchema } from '../../../core/kit/document'
import { containersOf, notThere, withoutFiles } from '../../library/standIns'
import { body, route } from '../../studio/route'

/** As many as a kit can hold. */
const MOST = MOST_PADS * MOST_LAYERS

/** As many as are looked for on the disk. */
const MOST_LOOKED_FOR = 100

const askedSchema = z.union([
  z.object({ sounds: z.array(soundIdSchema).max(MOST_LOOKED_FOR), onDisk: z.literal(true) }),
  z.object({ sounds: z.array(soundIdSchema).max(MOST) }),
])

/** Which of some sounds have no file, neither in the library nor in the vault, and in what containers the others are: as those were last looked through, or as the disk has it now. */
export default route(async ({ db, config }, event) => {
  const asked = await body(event, askedSchema)
  if ('onDisk' in asked) return { missing: await notThere(db, config, asked.sounds), containers: {} }
  return { missing: await withoutFiles(db, asked.sounds), containers: await containersOf(db, asked.sounds) }
})
