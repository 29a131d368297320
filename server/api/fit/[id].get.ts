import { sendStream, setResponseHeaders } from 'h3'
import { z } from 'zod'
import { openExport } from '../../bounce/exports'
import { param, route } from '../../studio/route'

/** What was written to be downloaded. */
export default route(async ({ config }, event) => {
  const { stream, fileName, type } = await openExport(config.cacheDir, param(event, 'id', z.uuid()), 'kits')
  setResponseHeaders(event, { 'Content-Type': type, 'Content-Disposition': `attachment; filename="${fileName}"` })
  return sendStream(event, stream)
})
