import { listUnreadable } from '../../../library/sources'
import { textFile } from '../../../studio/textFile'
import { idSchema, param, route } from '../../../studio/route'

/** The list of what could not be read, as text to keep or to send on. */
export default route(async ({ db }, event) => {
  const found = await listUnreadable(db, param(event, 'id', idSchema))
  return textFile(event, 'not-read.txt', found.map(({ path, reason }) => `${path}\t${reason}`))
})
