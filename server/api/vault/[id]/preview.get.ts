import { setResponseHeaders } from 'h3'
import { EmporionError } from '../../../../core/errors'
import { streamUserFile } from '../../../files/opener'
import { previewPath } from '../../../vault/presets'
import { nameSchema, param, route } from '../../../studio/route'
import { sendStreamed } from '../../../studio/streamed'

export default route(async ({ db, config }, event) => {
  const path = await previewPath(db, config.vaultDir, param(event, 'id', nameSchema))
  const { stream, size } = await streamUserFile(path, config.roots).catch(() => {
    throw new EmporionError('not-found', { what: 'This preset has no preview.', next: 'Open it on the bench to hear it.' })
  })
  setResponseHeaders(event, { 'Content-Type': 'audio/wav', 'Content-Length': size })
  return sendStreamed(event, stream)
})
