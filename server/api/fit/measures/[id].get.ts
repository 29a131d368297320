import { fitRoutes } from '../../../../contract/fit'
import { setResponseHeader } from 'h3'
import { openExport } from '../../../bounce/exports'
import { route } from '../../../studio/route'
import { sendStreamed } from '../../../studio/streamed'

export default route(fitRoutes.measures, async ({ config }, { params }, event) => {
  const { stream } = await openExport(config.cacheDir, params.id)
  setResponseHeader(event, 'Content-Type', 'application/json')
  return sendStreamed(event, stream)
})
