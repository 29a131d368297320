import { z } from 'zod'
import { readList } from '../../../library/list'
import { body, idSchema, param, route } from '../../../studio/route'

export default route(async ({ db, events }, event) => {
  const { text } = await body(event, z.object({ text: z.string() }))
  const read = await readList(db, param(event, 'id', idSchema), text)
  events.send({ type: 'library' })
  return read
})
