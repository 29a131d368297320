import { setResponseHeaders } from 'h3'
import { z } from 'zod'
import { openExport } from '../../bounce/exports'
import { attachment } from '../../studio/attachment'
import { param, query, route } from '../../studio/route'
import { sendStreamed } from '../../studio/streamed'

/** What was bounced to be downloaded: the file, or an archive of several, or one of them by its name. */
export default route(async ({ config }, event) => {
  const { file } = query(event, z.object({ file: z.string().max(400).optional() }))
  const { stream, fileName, type } = await openExport(config.cacheDir, param(event, 'id', z.uuid()), 'stems', file)
  setResponseHeaders(event, { 'Content-Type': type, ...attachment(fileName) })
  return sendStreamed(event, stream)
})
