import { setResponseHeaders } from 'h3'
import { listUnreadable } from '../../../library/sources'
import { idSchema, param, route } from '../../../studio/route'

/** The list of what could not be read, as text to keep or to send on. */
export default route(async ({ db }, event) => {
  const found = await listUnreadable(db, param(event, 'id', idSchema))
  setResponseHeaders(event, { 'content-type': 'text/plain; charset=utf-8', 'content-disposition': 'attachment; filename="not-read.txt"' })
  return found.map(({ path, reason }) => `${path}\t${reason}\n`).join('')
})
