import { setResponseHeaders } from 'h3'
import { studioRoutes } from '../../contract/studio'
import { attachment } from '../studio/attachment'
import { reportOf } from '../studio/report'
import { route } from '../studio/route'

export default route(studioRoutes.report, async ({ db, config }, _asked, event) => {
  setResponseHeaders(event, { 'content-type': 'application/json; charset=utf-8', ...attachment('emporion-report.json') })
  return `${JSON.stringify(await reportOf(db, config, new Date()), null, 2)}\n`
})
