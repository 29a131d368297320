import { trayRoutes } from '../../../../contract/tray'
import { setResponseHeaders } from 'h3'
import { trayAsText } from '../../../library/trays'
import { route } from '../../../studio/route'

export default route(trayRoutes.asText, async ({ db }, { params }, event) => {
  const text = await trayAsText(db, params.id)
  setResponseHeaders(event, { 'Content-Type': 'text/plain; charset=utf-8', 'Content-Disposition': 'attachment; filename="tray.txt"' })
  return text
})
