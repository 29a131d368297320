import { setResponseHeader } from 'h3'
import { z } from 'zod'
import { openExport } from '../../../bounce/exports'
import { param, route } from '../../../studio/route'
import { sendStreamed } from '../../../studio/streamed'

export default route(async ({ config }, event) => {
  const { stream } = await openExport(config.cacheDir, param(event, 'id', z.uuid()))
  setResponseHeader(event, 'Content-Type', 'application/json')
  return sendStreamed(event, stream)
})
