import { z } from 'zod'
import { soundRefSchema } from '../../../core/kit/document'
import { standInsFor } from '../../library/standIns'
import { body, route } from '../../studio/route'

const MOST = 2048
const wantedSchema = soundRefSchema.pick({ id: true, name: true, frames: true, sampleRate: true })

/** What may take the place of sounds whose files are gone. */
export default route(async ({ db, config }, event) => {
  const { sounds } = await body(event, z.object({ sounds: z.array(wantedSchema).max(MOST) }))
  return standInsFor(db, config, sounds)
})
