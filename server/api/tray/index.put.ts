import { z } from 'zod'
import { soundIdSchema } from '../../../core/kit/document'
import { setTray } from '../../library/tray'
import { body, route } from '../../studio/route'

export default route(async ({ db, events }, event) => {
  const { hashes, from } = await body(event, z.object({ hashes: z.array(soundIdSchema).max(10_000), from: z.string() }))
  await setTray(db, hashes)
  events.send({ type: 'tray', from })
  return { saved: true }
})
