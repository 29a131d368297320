import { bounceRoutes } from '../../../contract/bounce'
import { setResponseHeaders } from 'h3'
import { openExport } from '../../bounce/exports'
import { attachment } from '../../studio/attachment'
import { route } from '../../studio/route'
import { sendStreamed } from '../../studio/streamed'

/** What was bounced to be downloaded: the file, or an archive of several, or one of them by its name. */
export default route(bounceRoutes.file, async ({ config }, { params, query: { file } }, event) => {
  const { stream, fileName, type } = await openExport(config.cacheDir, params.id, 'stems', file)
  setResponseHeaders(event, { 'Content-Type': type, ...attachment(fileName) })
  return sendStreamed(event, stream)
})
