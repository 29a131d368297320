import { fitRoutes } from '../../../contract/fit'
import { setResponseHeaders } from 'h3'
import { openExport } from '../../bounce/exports'
import { route } from '../../studio/route'
import { sendStreamed } from '../../studio/streamed'

/** Exported files to be downloaded. */
export default route(fitRoutes.file, async ({ config }, { params }, event) => {
  const { stream, fileName, type } = await openExport(config.cacheDir, params.id, 'kits')
  setResponseHeaders(event, { 'Content-Type': type, 'Content-Disposition': `attachment; filename="${fileName}"` })
  return sendStreamed(event, stream)
})
