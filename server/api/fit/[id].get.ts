import { setResponseHeaders } from 'h3'
import { z } from 'zod'
import { openExport } from '../../bounce/exports'
import { param, route } from '../../studio/route'
import { sendStreamed } from '../../studio/streamed'

/** Exported files to be downloaded. */
export default route(async ({ config }, event) => {
  const { stream, fileName, type } = await openExport(config.cacheDir, param(event, 'id', z.uuid()), 'kits')
  setResponseHeaders(event, { 'Content-Type': type, 'Content-Disposition': `attachment; filename="${fileName}"` })
  return sendStreamed(event, stream)
})
