import { vaultRoutes } from '../../../../contract/vault'
import { setResponseHeaders } from 'h3'
import { EmporionError } from '../../../../core/errors'
import { streamUserFile } from '../../../base/opener'
import { previewPath } from '../../../vault/presets'
import { route } from '../../../studio/route'
import { sendStreamed } from '../../../studio/streamed'

export default route(vaultRoutes.preview, async ({ db, config }, { params }, event) => {
  const path = await previewPath(db, config.vaultDir, params.id)
  const { stream, size } = await streamUserFile(path, config.roots).catch(() => {
    throw new EmporionError('not-found', { what: 'This preset has no preview.', next: 'Open it on the bench to hear it.' })
  })
  setResponseHeaders(event, { 'Content-Type': 'audio/wav', 'Content-Length': size })
  return sendStreamed(event, stream)
})
