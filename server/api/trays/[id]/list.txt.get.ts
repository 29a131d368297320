import { setResponseHeaders } from 'h3'
import { trayAsText } from '../../../library/trays'
import { idSchema, param, route } from '../../../studio/route'

export default route(async ({ db }, event) => {
  const text = await trayAsText(db, param(event, 'id', idSchema))
  setResponseHeaders(event, { 'Content-Type': 'text/plain; charset=utf-8', 'Content-Disposition': 'attachment; filename="tray.txt"' })
  return text
})
